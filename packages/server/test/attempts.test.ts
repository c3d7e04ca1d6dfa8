import type { Outcome } from '@clear-mark/core';
import type { AttemptDocument, EntryReceipt, Person, Revision } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { startServer } from '../src/index.ts';
import {
  attemptBody,
  batch,
  type Caller,
  CRITERIA,
  criterionId,
  entryOf,
  type TestClass,
  wholePiece,
  World,
  seen,
} from './harness.ts';

let world: World;
let teacher: Person;
let other: Person;
let trainee: Person;
let stranger: Person;
let classroom: TestClass;
let api: Caller;
let attemptId: string;

const PASS = { kind: 'check', passed: true } as const;
const FAIL = { kind: 'check', passed: false } as const;

beforeAll(async () => {
  world = await World.make();
  [teacher, other, trainee, stranger] = await Promise.all([
    world.person('instructor'),
    world.person('instructor'),
    world.person('trainee'),
    world.person('trainee'),
  ]);
  classroom = await world.classOf([teacher], [trainee]);
  await world.classOf([other], [stranger]);
  api = await world.signedIn(teacher);
});
afterAll(() => world.close());

beforeEach(async () => {
  const body = attemptBody(classroom);
  attemptId = body.id;
  expect((await api.post(`/classes/${classroom.id}/attempts`, body)).status).toBe(200);
});

const receiptsOf = async (caller: Caller, entries: readonly unknown[]): Promise<EntryReceipt[]> => {
  const reply = await caller.post('/entries', batch(entries));
  expect(reply.status).toBe(200);
  return (reply.body as { receipts: EntryReceipt[] }).receipts;
};
const document = async (): Promise<AttemptDocument> => (await api.get(`/attempts/${attemptId}`)).body;
async function references(setAt = new Date().toISOString()): Promise<Record<number, string>> {
  const made: Record<number, string> = {};
  for (const wavelengthNm of [1310, 1550]) {
    made[wavelengthNm] = v7();
    const reply = await api.post(`/classes/${classroom.id}/references`, {
      id: made[wavelengthNm],
      instrumentId: classroom.things['instrument'],
      method: 'single_cord',
      wavelengthNm,
      valueDbm: '-5.00',
      setAt,
      showsNegative: false,
    });
    expect(reply.status).toBe(200);
  }
  return made;
}
const sign = (entryIds: readonly string[], more: object = {}) =>
  api.post(`/attempts/${attemptId}/sign`, { ...seen(entryIds), reason: null, asVoid: false, ...more });

describe('starting an attempt', () => {
  it('is no harm twice, and refused with other content', async () => {
    const body = attemptBody(classroom);
    const path = `/classes/${classroom.id}/attempts`;
    expect((await api.post(path, body)).status).toBe(200);
    expect((await api.post(path, body)).status).toBe(200);
    const changed = await api.post(path, { ...body, pieceId: v7() });
    expect([changed.status, changed.problem.code]).toEqual([409, 'attempt.other_content']);
  });

  it.each([
    ['another class’s trainee', () => ({ traineeId: stranger.id }), 'attempt.trainee_not_in_class'],
    ['an instructor as trainee', () => ({ traineeId: teacher.id }), 'attempt.trainee_not_in_class'],
    ['an unknown method', () => ({ methodVersionId: v7() }), 'attempt.method_not_in_use'],
    ['a thing of nowhere', () => ({ thingIds: [v7()] }), 'attempt.thing_not_in_class'],
  ])('refuses %s and changes nothing', async (_, change, code) => {
    const before = await world.db('attempts').count('id as n').first();
    const reply = await api.post(`/classes/${classroom.id}/attempts`, {
      ...attemptBody(classroom),
      ...change(),
    });
    expect([reply.status, reply.problem.code]).toEqual([422, code]);
    expect(reply.problem.detail).toMatch(/Nothing was started\.$/);
    expect(await world.db('attempts').count('id as n').first()).toEqual(before);
    expect(await world.db('pieces').where({ label: 'never' }).first()).toBeUndefined();
  });

  it('corrects a device clock that is an hour wrong', async () => {
    const wrong = new Date(Date.now() - 3_600_000).toISOString();
    const body = attemptBody(classroom, trainee, { startedAt: wrong, sentAt: wrong });
    await api.post(`/classes/${classroom.id}/attempts`, body);
    const row = await world.db('attempts').where({ id: body.id }).first();
    expect(Math.abs(Date.parse(row.started_at) - Date.now())).toBeLessThan(10_000);
    expect(row.clock_offset_ms).toBeGreaterThan(3_500_000);
  });
});

describe('entries', () => {
  it('are numbered in order, and a batch sent again changes nothing', async () => {
    const entries = [entryOf(attemptId, teacher, 'glasses', PASS), entryOf(attemptId, teacher, 'kit', FAIL)];
    const first = await receiptsOf(api, entries);
    expect(first).toEqual([
      { id: entries[0]!.id, state: 'accepted', seq: 1 },
      { id: entries[1]!.id, state: 'accepted', seq: 2 },
    ]);
    expect(await receiptsOf(api, entries)).toEqual(first);
    expect((await document()).entries.map((e) => e.seq)).toEqual([1, 2]);
  });

  it('ten times the same batch at once stand once', async () => {
    const entries = CRITERIA.filter((c) => c.kind === 'check').map((c) =>
      entryOf(attemptId, teacher, c.id.slice(criterionId('').length), PASS),
    );
    const all = await Promise.all(Array.from({ length: 10 }, () => receiptsOf(api, entries)));
    for (const receipts of all) expect(receipts.every((r) => r.state === 'accepted')).toBe(true);
    const stored = (await document()).entries;
    expect(stored.map((e) => e.seq)).toEqual(entries.map((_, i) => i + 1));
    expect(new Set(stored.map((e) => e.id)).size).toBe(entries.length);
  });

  it('each is taken or refused on its own, with a sentence', async () => {
    const good = entryOf(attemptId, teacher, 'glasses', PASS);
    const bad: [object, string][] = [
      [
        entryOf(attemptId, teacher, 'jacket-length', { kind: 'measure', text: 'abc', unit: 'mm' }),
        'value.not_a_number',
      ],
      [
        entryOf(attemptId, teacher, 'jacket-length', { kind: 'measure', text: '-3', unit: 'mm' }),
        'value.negative',
      ],
      [
        entryOf(attemptId, teacher, 'jacket-length', { kind: 'measure', text: '3', unit: 'deg' }),
        'value.wrong_unit',
      ],
      [entryOf(attemptId, teacher, 'cleanings', { kind: 'count', count: 1e9 }), 'value.bad_count'],
      [
        entryOf(attemptId, teacher, 'settle', {
          kind: 'timed',
          startedAt: '2026-03-02T10:00:05.000Z',
          stoppedAt: '2026-03-02T10:00:00.000Z',
        }),
        'time.backwards',
      ],
      [entryOf(attemptId, teacher, 'nowhere', PASS), 'entry.unknown_criterion'],
      [entryOf(attemptId, teacher, 'end-face', { kind: 'grade', level: 'superb' }), 'value.unknown_level'],
      [entryOf(attemptId, other, 'kit', PASS), 'entry.author_left'],
      [{ ...entryOf(attemptId, teacher, 'kit', PASS), authorId: v7() }, 'entry.not_author'],
      [entryOf(attemptId, teacher, 'kit', PASS, { capacity: 'trainee' }), 'entry.capacity'],
      [entryOf(attemptId, teacher, 'kit', null, { kind: 'retract', targetId: v7() }), 'entry.unknown_target'],
      [entryOf(attemptId, teacher, 'kit', null, { kind: 'value' }), 'entry.value_missing'],
      [
        entryOf(
          attemptId,
          teacher,
          'loss',
          { kind: 'loss', text: '0.2', unit: 'dB', referenceId: v7() },
          { part: '1310' },
        ),
        'entry.reference_missing',
      ],
      [{ id: 'nonsense' }, 'request.bad_field'],
    ];
    const receipts = await receiptsOf(api, [...bad.map(([e]) => e), good]);
    expect(receipts.map((r) => (r.state === 'refused' ? r.code : r.state))).toEqual([
      ...bad.map(([, code]) => code),
      'accepted',
    ]);
    for (const r of receipts) if (r.state === 'refused') expect(r.detail.length).toBeGreaterThan(10);
    expect((await document()).entries.map((e) => e.id)).toEqual([good.id]);
  });

  it('one bad among 200 refuses only itself', async () => {
    const entries: unknown[] = Array.from({ length: 200 }, (_, i) =>
      i === 77
        ? { ...entryOf(attemptId, teacher, 'kit', PASS), part: 7 }
        : entryOf(attemptId, teacher, 'kit', PASS),
    );
    const states = (await receiptsOf(api, entries)).map((r) => r.state);
    expect(states.filter((s) => s === 'refused')).toHaveLength(1);
    expect(states[77]).toBe('refused');
    expect((await document()).entries).toHaveLength(199);
  });

  it('an id is never used again for something else', async () => {
    const entry = entryOf(attemptId, teacher, 'glasses', PASS);
    await receiptsOf(api, [entry]);
    const [receipt] = await receiptsOf(api, [{ ...entry, value: FAIL }]);
    expect(receipt).toMatchObject({ state: 'refused', code: 'entry.other_content' });
    expect((await document()).entries[0]!.value).toEqual(PASS);
  });

  it('of a trainee are taken for the own attempt only, as the trainee’s', async () => {
    const own = await world.signedIn(trainee);
    const entry = entryOf(attemptId, trainee, 'glasses', PASS);
    expect((await receiptsOf(own, [entry]))[0]!.state).toBe('accepted');
    const strange = await world.signedIn(stranger);
    const [refusal] = await receiptsOf(strange, [entryOf(attemptId, stranger, 'glasses', PASS)]);
    expect(refusal).toMatchObject({ state: 'refused', code: 'auth.not_in_class' });
  });

  it('keeps a note apart, so that it can be erased', async () => {
    const note = entryOf(attemptId, teacher, 'glasses', null, { kind: 'note', note: 'Left-handed' });
    await receiptsOf(api, [note]);
    expect((await document()).entries[0]!.note).toBe('Left-handed');
    await world.db('entry_notes').where({ entry_id: note.id }).del();
    const row = await world.db('entries').where({ id: note.id }).first();
    expect(row.note_digest).toMatch(/^[0-9a-f]{64}$/);
    expect((await document()).entries[0]!.note).toBeNull();
  });

  it('survive a restart of the server: nothing acknowledged is missing', async () => {
    const acknowledged = await receiptsOf(api, [entryOf(attemptId, teacher, 'glasses', PASS)]);
    const second = await startServer({
      databaseUrl: world.appUrl,
      ownerUrl: world.url,
      mode: 'test',
      host: '127.0.0.1',
      port: 0,
      tls: null,
      webDir: null,
      logLevel: 'silent',
    });
    await second.stop();
    expect((await document()).entries.map((e) => e.id)).toEqual(acknowledged.map((r) => r.id));
  });
});

describe('the database itself', () => {
  it('keeps entries append only and out of signed attempts', async () => {
    const entry = entryOf(attemptId, teacher, 'glasses', PASS);
    await receiptsOf(api, [entry]);
    const row = (db = world.owner) => db('entries').where({ id: entry.id });
    await expect(row().update({ part: 'x' })).rejects.toMatchObject({ code: 'CM002' });
    await expect(row().del()).rejects.toMatchObject({ code: 'CM002' });
    await expect(world.owner.raw('truncate entries cascade')).rejects.toMatchObject({ code: 'CM002' });
    // The application's own role may not even try, nor switch off what refuses.
    const DENIED = { code: '42501' };
    await expect(row(world.db).update({ part: 'x' })).rejects.toMatchObject(DENIED);
    await expect(row(world.db).del()).rejects.toMatchObject(DENIED);
    await expect(world.db.raw('truncate entries cascade')).rejects.toMatchObject(DENIED);
    await expect(world.db.raw('alter table entries disable trigger all')).rejects.toMatchObject(DENIED);
    await expect(world.db.raw('drop table signed_revisions')).rejects.toMatchObject(DENIED);
    await expect(world.db.raw('create table mine (x int)')).rejects.toMatchObject(DENIED);
    await sign([entry.id], { reason: 'left early' });
    const late = { ...(await row().first()), id: v7(), seq: 99 };
    late.value = JSON.stringify(late.value);
    await expect(world.db('entries').insert(late)).rejects.toMatchObject({ code: 'CM003' });
    await expect(world.db('signed_revisions').update({ hash: 'x' })).rejects.toMatchObject({ code: 'CM002' });
    await expect(
      world.db('attempts').where({ id: attemptId }).update({ state: 'open' }),
    ).rejects.toMatchObject({
      code: 'CM002',
    });
    await expect(world.db('method_versions').update({ title: 'x' })).rejects.toMatchObject({ code: 'CM001' });
  });
});

describe('signing', () => {
  it('signs exactly what was seen, scores it and lays it out for counting', async () => {
    const entries = wholePiece(attemptId, teacher, await references());
    await receiptsOf(api, entries);
    const reply = await sign(entries.map((e) => e.id));
    expect(reply.status).toBe(200);
    const revision = reply.body as Revision;
    expect(revision.outcome.verdict).toBe('pass');
    const skills = await world.db('outcome_skills').where({ attempt_id: attemptId }).orderBy('skill');
    expect(skills.map((s) => `${s.skill} ${s.mark}`)).toEqual([
      'cleave P',
      'inspect P',
      'strip P',
      'terminate P',
      'test P',
      'whole P',
    ]);
    const losses = await world.db('outcome_losses').where({ attempt_id: attemptId });
    expect(losses.map((l) => l.loss_db)).toEqual([0.2, 0.2]);
    expect(losses[0].limit_db).toBeCloseTo(0.752, 9);
  });

  it('refuses another set of entries, and changes nothing', async () => {
    const entry = entryOf(attemptId, teacher, 'glasses', PASS);
    await receiptsOf(api, [entry]);
    const reply = await sign([]);
    expect([reply.status, reply.problem.code]).toEqual([409, 'sign.entries_differ']);
    expect((await sign([entry.id, v7()])).problem.code).toBe('sign.entries_differ');
    expect((await document()).attempt.state).toBe('open');
  });

  it('an incomplete attempt needs a reason, and is counted apart', async () => {
    expect((await sign([])).problem.code).toBe('sign.reason_needed');
    const revision = (await sign([], { reason: 'Fire drill' })).body as Revision;
    expect(revision).toMatchObject({ kind: 'signed_incomplete', reason: 'Fire drill' });
    const marks = await world.db('outcome_skills').where({ attempt_id: attemptId }).pluck('mark');
    expect(new Set(marks)).toEqual(new Set(['I']));
  });

  it('a conflict waits for a choice', async () => {
    const two = [entryOf(attemptId, teacher, 'glasses', PASS), entryOf(attemptId, teacher, 'glasses', PASS)];
    await receiptsOf(api, two);
    const reply = await sign(
      two.map((e) => e.id),
      { reason: 'x' },
    );
    expect(reply.problem.code).toBe('sign.conflict');
    const choice = entryOf(attemptId, teacher, 'glasses', PASS, { supersedes: two.map((e) => e.id) });
    await receiptsOf(api, [choice]);
    expect(
      (
        await sign(
          [...two, choice].map((e) => e.id),
          { reason: 'x' },
        )
      ).status,
    ).toBe(200);
  });

  it('of two devices at the same moment one signs, the other is told', async () => {
    const replies = await Promise.all(Array.from({ length: 5 }, () => sign([], { reason: 'x' })));
    expect(replies.map((r) => r.status).sort()).toEqual([200, 409, 409, 409, 409]);
    expect(replies.find((r) => r.status === 409)!.problem).toMatchObject({ code: 'attempt.signed' });
    expect(await world.db('signed_revisions').where({ attempt_id: attemptId })).toHaveLength(1);
  });

  it('late entries are kept beside, with the reason, and change nothing', async () => {
    await sign([], { reason: 'x' });
    const late = entryOf(attemptId, teacher, 'glasses', PASS);
    const receipts = await receiptsOf(api, [late]);
    expect(receipts[0]).toMatchObject({ state: 'unmerged', code: 'attempt.signed' });
    expect(await receiptsOf(api, [late])).toEqual(receipts);
    const doc = await document();
    expect([doc.unmerged, doc.entries.length]).toEqual([1, 0]);
  });

  it('a void reading fails the test skill alone and leaves the sample', async () => {
    const entries = wholePiece(attemptId, teacher, await references(), {}, '-0.5');
    await receiptsOf(api, entries);
    const { outcome } = (await sign(entries.map((e) => e.id))).body as { outcome: Outcome };
    expect(outcome.skills.test?.verdict).toBe('fail');
    expect(outcome.skills.terminate?.verdict).toBe('pass');
    const losses = await world.db('outcome_losses').where({ attempt_id: attemptId });
    expect(losses.map((l) => [l.mark, l.loss_db])).toEqual([
      ['V', null],
      ['V', null],
    ]);
  });

  it('a reference over four hours old makes the reading void', async () => {
    const old = await references(new Date(Date.now() - 5 * 3_600_000).toISOString());
    const entries = wholePiece(attemptId, teacher, old);
    await receiptsOf(api, entries);
    const { outcome } = (await sign(entries.map((e) => e.id))).body as { outcome: Outcome };
    expect(outcome.criteria.find((c) => c.parts.length > 0)!.parts[0]!.reason?.code).toBe(
      'void.reference_old',
    );
  });

  it('a failure charged to its cause counts in that skill', async () => {
    const said = { 'trainee-verdict': { kind: 'call', said: 'fail' } } as const;
    const entries = wholePiece(attemptId, teacher, await references(), said, '0.95');
    const charge = entryOf(
      attemptId,
      teacher,
      'loss',
      { kind: 'charge', skill: 'cleave', cause: 'bad_cleave' },
      { kind: 'charge', part: 'charge' },
    );
    const wrong = { ...charge, id: v7(), part: '1310' };
    const states = (await receiptsOf(api, [...entries, charge, wrong])).map((r) => r.state);
    expect(states.slice(-2)).toEqual(['accepted', 'refused']);
    await sign([...entries, charge].map((e) => e.id));
    const marks = await world.db('outcome_skills').where({ attempt_id: attemptId }).orderBy('skill');
    expect(marks.map((m) => `${m.skill} ${m.mark}`)).toEqual([
      'cleave F',
      'inspect P',
      'strip P',
      'terminate P',
      'test P',
      'whole F',
    ]);
  });

  it('a void attempt leaves every rate', async () => {
    const revision = (await sign([], { asVoid: true, reason: 'Cleaver broke' })).body as Revision;
    expect(revision.kind).toBe('void');
    const marks = await world.db('outcome_skills').where({ attempt_id: attemptId }).pluck('mark');
    expect(new Set(marks)).toEqual(new Set(['V']));
    expect(await world.db('outcome_criteria').where({ attempt_id: attemptId })).toHaveLength(0);
  });
});
