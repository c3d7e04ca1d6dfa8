import { v7 } from 'uuid';
import { describe, expect, it } from 'vitest';
import { startServer } from '../src/index.ts';
import { attemptBody, CRITERIA, criterionId, entryOf } from './harness.ts';
import { openAttempt } from './open-attempt.ts';

const own = openAttempt();
const PASS = { kind: 'check', passed: true } as const;
const FAIL = { kind: 'check', passed: false } as const;

describe('starting an attempt', () => {
  it('is no harm twice, and refused with other content', async () => {
    const body = attemptBody(own.classroom);
    const path = `/classes/${own.classroom.id}/attempts`;
    expect((await own.api.post(path, body)).status).toBe(200);
    expect((await own.api.post(path, body)).status).toBe(200);
    const changed = await own.api.post(path, { ...body, pieceId: v7() });
    expect([changed.status, changed.problem.code]).toEqual([409, 'attempt.other_content']);
  });

  it.each([
    ['another class’s trainee', () => ({ traineeId: own.stranger.id }), 'attempt.trainee_not_in_class'],
    ['an instructor as trainee', () => ({ traineeId: own.teacher.id }), 'attempt.trainee_not_in_class'],
    ['an unknown method', () => ({ methodVersionId: v7() }), 'attempt.method_not_in_use'],
    ['a thing of nowhere', () => ({ thingIds: [v7()] }), 'attempt.thing_not_in_class'],
  ])('refuses %s and changes nothing', async (_, change, code) => {
    const before = await own.world.db('attempts').count('id as n').first();
    const reply = await own.api.post(`/classes/${own.classroom.id}/attempts`, {
      ...attemptBody(own.classroom),
      ...change(),
    });
    expect([reply.status, reply.problem.code]).toEqual([422, code]);
    expect(reply.problem.detail).toMatch(/Nothing was started\.$/);
    expect(await own.world.db('attempts').count('id as n').first()).toEqual(before);
    expect(await own.world.db('pieces').where({ label: 'never' }).first()).toBeUndefined();
  });

  it('corrects a device clock that is an hour wrong', async () => {
    const wrong = new Date(Date.now() - 3_600_000).toISOString();
    const body = attemptBody(own.classroom, own.trainee, { startedAt: wrong, sentAt: wrong });
    await own.api.post(`/classes/${own.classroom.id}/attempts`, body);
    const row = await own.world.db('attempts').where({ id: body.id }).first();
    expect(Math.abs(Date.parse(row.started_at) - Date.now())).toBeLessThan(10_000);
    expect(row.clock_offset_ms).toBeGreaterThan(3_500_000);
  });
});

describe('entries', () => {
  it('are numbered in order, and a batch sent again changes nothing', async () => {
    const entries = [
      entryOf(own.attemptId, own.teacher, 'glasses', PASS),
      entryOf(own.attemptId, own.teacher, 'kit', FAIL),
    ];
    const first = await own.receiptsOf(own.api, entries);
    expect(first).toEqual([
      { id: entries[0]!.id, state: 'accepted', seq: 1 },
      { id: entries[1]!.id, state: 'accepted', seq: 2 },
    ]);
    expect(await own.receiptsOf(own.api, entries)).toEqual(first);
    expect((await own.document()).entries.map((e) => e.seq)).toEqual([1, 2]);
  });

  it('ten times the same batch at once stand once', async () => {
    const entries = CRITERIA.filter((c) => c.kind === 'check').map((c) =>
      entryOf(own.attemptId, own.teacher, c.id.slice(criterionId('').length), PASS),
    );
    const all = await Promise.all(Array.from({ length: 10 }, () => own.receiptsOf(own.api, entries)));
    for (const receipts of all) expect(receipts.every((r) => r.state === 'accepted')).toBe(true);
    const stored = (await own.document()).entries;
    expect(stored.map((e) => e.seq)).toEqual(entries.map((_, i) => i + 1));
    expect(new Set(stored.map((e) => e.id)).size).toBe(entries.length);
  });

  it('each is taken or refused on its own, with a sentence', async () => {
    const good = entryOf(own.attemptId, own.teacher, 'glasses', PASS);
    const bad: [object, string][] = [
      [
        entryOf(own.attemptId, own.teacher, 'jacket-length', { kind: 'measure', text: 'abc', unit: 'mm' }),
        'value.not_a_number',
      ],
      [
        entryOf(own.attemptId, own.teacher, 'jacket-length', { kind: 'measure', text: '-3', unit: 'mm' }),
        'value.negative',
      ],
      [
        entryOf(own.attemptId, own.teacher, 'jacket-length', { kind: 'measure', text: '3', unit: 'deg' }),
        'value.wrong_unit',
      ],
      [entryOf(own.attemptId, own.teacher, 'cleanings', { kind: 'count', count: 1e9 }), 'value.bad_count'],
      [
        entryOf(own.attemptId, own.teacher, 'settle', {
          kind: 'timed',
          startedAt: '2026-03-02T10:00:05.000Z',
          stoppedAt: '2026-03-02T10:00:00.000Z',
        }),
        'time.backwards',
      ],
      [entryOf(own.attemptId, own.teacher, 'nowhere', PASS), 'entry.unknown_criterion'],
      [
        entryOf(own.attemptId, own.teacher, 'end-face', { kind: 'grade', level: 'superb' }),
        'value.unknown_level',
      ],
      [entryOf(own.attemptId, own.other, 'kit', PASS), 'entry.author_left'],
      [{ ...entryOf(own.attemptId, own.teacher, 'kit', PASS), authorId: v7() }, 'entry.not_author'],
      [entryOf(own.attemptId, own.teacher, 'kit', PASS, { capacity: 'trainee' }), 'entry.capacity'],
      [
        entryOf(own.attemptId, own.teacher, 'kit', null, { kind: 'retract', targetId: v7() }),
        'entry.unknown_target',
      ],
      [entryOf(own.attemptId, own.teacher, 'kit', null, { kind: 'value' }), 'entry.value_missing'],
      [
        entryOf(
          own.attemptId,
          own.teacher,
          'loss',
          { kind: 'loss', text: '0.2', unit: 'dB', referenceId: v7() },
          { part: '1310' },
        ),
        'entry.reference_missing',
      ],
      [{ id: 'nonsense' }, 'request.bad_field'],
    ];
    const receipts = await own.receiptsOf(own.api, [...bad.map(([e]) => e), good]);
    expect(receipts.map((r) => (r.state === 'refused' ? r.code : r.state))).toEqual([
      ...bad.map(([, code]) => code),
      'accepted',
    ]);
    for (const r of receipts) if (r.state === 'refused') expect(r.detail.length).toBeGreaterThan(10);
    expect((await own.document()).entries.map((e) => e.id)).toEqual([good.id]);
  });

  it('one bad among 200 refuses only itself', async () => {
    const entries: unknown[] = Array.from({ length: 200 }, (_, i) =>
      i === 77
        ? { ...entryOf(own.attemptId, own.teacher, 'kit', PASS), part: 7 }
        : entryOf(own.attemptId, own.teacher, 'kit', PASS),
    );
    const states = (await own.receiptsOf(own.api, entries)).map((r) => r.state);
    expect(states.filter((s) => s === 'refused')).toHaveLength(1);
    expect(states[77]).toBe('refused');
    expect((await own.document()).entries).toHaveLength(199);
  });

  it('an id is never used again for something else', async () => {
    const entry = entryOf(own.attemptId, own.teacher, 'glasses', PASS);
    await own.receiptsOf(own.api, [entry]);
    const [receipt] = await own.receiptsOf(own.api, [{ ...entry, value: FAIL }]);
    expect(receipt).toMatchObject({ state: 'refused', code: 'entry.other_content' });
    expect((await own.document()).entries[0]!.value).toEqual(PASS);
  });

  it('of a trainee are taken for the own attempt only, as the trainee’s', async () => {
    const asTrainee = await own.world.signedIn(own.trainee);
    const entry = entryOf(own.attemptId, own.trainee, 'glasses', PASS);
    expect((await own.receiptsOf(asTrainee, [entry]))[0]!.state).toBe('accepted');
    const strange = await own.world.signedIn(own.stranger);
    const [refusal] = await own.receiptsOf(strange, [entryOf(own.attemptId, own.stranger, 'glasses', PASS)]);
    expect(refusal).toMatchObject({ state: 'refused', code: 'auth.not_in_class' });
  });

  it('keeps a note apart, so that it can be erased', async () => {
    const note = entryOf(own.attemptId, own.teacher, 'glasses', null, { kind: 'note', note: 'Left-handed' });
    await own.receiptsOf(own.api, [note]);
    expect((await own.document()).entries[0]!.note).toBe('Left-handed');
    await own.world.db('entry_notes').where({ entry_id: note.id }).del();
    const row = await own.world.db('entries').where({ id: note.id }).first();
    expect(row.note_digest).toMatch(/^[0-9a-f]{64}$/);
    expect((await own.document()).entries[0]!.note).toBeNull();
  });

  it('survive a restart of the server: nothing acknowledged is missing', async () => {
    const acknowledged = await own.receiptsOf(own.api, [
      entryOf(own.attemptId, own.teacher, 'glasses', PASS),
    ]);
    const second = await startServer({
      databaseUrl: own.world.appUrl,
      ownerUrl: own.world.url,
      mode: 'test',
      host: '127.0.0.1',
      port: 0,
      tls: null,
      webDir: null,
      logLevel: 'silent',
    });
    await second.stop();
    expect((await own.document()).entries.map((e) => e.id)).toEqual(acknowledged.map((r) => r.id));
  });
});
