import type { AttemptDocument, AuditEvent, Revision } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { describe, expect, it } from 'vitest';
import { verifyRecords } from '../src/index.ts';
import { criterionId, entryOf, wholePiece } from './harness.ts';
import { openAttempt } from './open-attempt.ts';

const own = openAttempt();
const FAIL = { kind: 'check', passed: false } as const;
const PASS = { kind: 'check', passed: true } as const;

const entry = (name: string, value: object | null, more: object = {}) => ({
  id: v7(),
  kind: 'value',
  criterionId: criterionId(name),
  part: '',
  value,
  note: null,
  targetId: null,
  ...more,
});
const amend = (more: object = {}, as = own.api) =>
  as.post(`/attempts/${own.attemptId}/amendment`, {
    fromRevision: 1,
    late: [],
    entries: [],
    reason: 'Read from the video afterwards',
    asVoid: false,
    ...more,
  });
/** A whole piece that failed its glasses, signed. */
async function signedPiece(changes: Parameters<typeof wholePiece>[3] = { glasses: FAIL }) {
  const entries = wholePiece(own.attemptId, own.teacher, await own.references(), changes);
  await own.receiptsOf(own.api, entries);
  const reply = await own.sign(entries.map((e) => e.id));
  expect(reply.status).toBe(200);
  return { entries, revision: reply.body as Revision };
}
const marks = async (): Promise<Record<string, string>> =>
  Object.fromEntries(
    (await own.world.db('outcome_skills').where({ attempt_id: own.attemptId })).map((r) => [r.skill, r.mark]),
  );
const findings = async () => (await verifyRecords(own.world.db, [])).findings;

describe('an amendment of a signed piece', () => {
  it('is a further revision: the first stays, every number follows, and the chain holds', async () => {
    const { revision: first } = await signedPiece();
    expect((await marks())['whole']).toBe('S');
    const second = (await amend({ entries: [entry('glasses', PASS)] })).body as Revision;
    expect(second).toMatchObject({ revision: 2, kind: 'amended', reason: 'Read from the video afterwards' });
    expect(second.outcome.verdict).toBe('pass');
    expect(second.previousHash).toBe(first.hash);
    expect((await marks())['whole']).toBe('P');
    const document = await own.document();
    expect(document.revisions.map((r) => [r.revision, r.kind, r.outcome.verdict])).toEqual([
      [1, 'signed', 'fail'],
      [2, 'amended', 'pass'],
    ]);
    const [was, now] = document.entries.filter((e) => e.criterionId === criterionId('glasses'));
    expect(now).toMatchObject({ supersedes: [was!.id], value: PASS, authorId: own.teacher.id });
    expect(document.revisions[0]!.lastSeq).toBe(document.entries.length - 1);
    expect(await findings()).toEqual([]);
    const csv = (await own.api.get(`/classes/${own.classroom.id}/attempts.csv`)).body as string;
    expect(csv).toContain('Read from the video afterwards');
  });

  it('is seen by the trainee, and told in the trail', async () => {
    await signedPiece();
    await amend({ entries: [entry('glasses', PASS)] });
    const asTrainee = await own.world.signedIn(own.trainee);
    const document = (await asTrainee.get(`/attempts/${own.attemptId}`)).body as AttemptDocument;
    expect(document.revisions.at(-1)).toMatchObject({ kind: 'amended', signedBy: own.teacher.name });
    const lead = await own.world.signedIn(await own.world.person('lead'));
    const { events } = (await lead.get('/audit?kind=record_amended')).body as { events: AuditEvent[] };
    expect(events[0]).toMatchObject({ by: own.teacher.name, person: own.trainee.name });
  });

  it('takes late entries with their author and time, leaves others out, and asks for both once', async () => {
    const { entries } = await signedPiece({});
    const standing = entries.find((e) => e.criterionId === criterionId('glasses'))!;
    const taken = entryOf(own.attemptId, own.trainee, 'glasses', FAIL);
    const left = entryOf(own.attemptId, own.teacher, 'kit', FAIL);
    const asTrainee = await own.world.signedIn(own.trainee);
    await own.receiptsOf(asTrainee, [taken]);
    await own.receiptsOf(own.api, [left]);
    const before = await own.document();
    expect(before.late.map((e) => [e.id, e.authorName])).toEqual([
      [taken.id, own.trainee.name],
      [left.id, own.teacher.name],
    ]);
    expect(before.notices.map((n) => n.cause)).toEqual(['entry_late', 'entry_late']);
    expect((await amend({ late: [{ id: taken.id, take: true }] })).problem.code).toBe('amend.moved');
    const late = [
      { id: taken.id, take: true },
      { id: left.id, take: false },
    ];
    expect((await amend({ late })).status).toBe(200);
    const after = await own.document();
    expect([after.late, after.notices]).toEqual([[], []]);
    const there = after.entries.find((e) => e.id === taken.id)!;
    expect(there).toMatchObject({ authorId: own.trainee.id, deliveredBy: own.teacher.name });
    expect(there.supersedes).toEqual([standing.id]);
    expect(after.entries.some((e) => e.id === left.id)).toBe(false);
    expect(await own.receiptsOf(own.api, [left])).toMatchObject([{ state: 'unmerged' }]);
    expect(await findings()).toEqual([]);
  });

  it('a loss that was read wrong: the statistics have the new one', async () => {
    const { entries } = await signedPiece({});
    const reading = entries.find((e) => e.value?.kind === 'loss')!;
    const value = { ...reading.value, text: '0.31' };
    const again = entry('x', value, { criterionId: reading.criterionId, part: reading.part });
    expect((await amend({ entries: [again] })).status).toBe(200);
    const losses = await own.world.db('outcome_losses').where({ attempt_id: own.attemptId });
    expect(losses.map((l) => l.loss_db).sort()).toEqual([0.2, 0.31]);
    expect(await findings()).toEqual([]);
  });

  it('may make the whole void, and may be amended again', async () => {
    await signedPiece();
    expect((await amend({ asVoid: true, reason: 'Wrong method' })).body).toMatchObject({ kind: 'void' });
    expect((await marks())['whole']).toBe('V');
    const third = await amend({ fromRevision: 2, entries: [entry('glasses', PASS)] });
    expect(third.body).toMatchObject({ revision: 3, kind: 'amended' });
    expect((await marks())['whole']).toBe('P');
    expect(await findings()).toEqual([]);
  });

  it('of two at once one is kept, the other is told', async () => {
    await signedPiece();
    const replies = await Promise.all(
      [PASS, PASS, PASS].map((v) => amend({ entries: [entry('glasses', v)] })),
    );
    expect(replies.map((r) => r.status).sort()).toEqual([200, 409, 409]);
    expect(replies.find((r) => r.status === 409)!.problem.code).toBe('amend.moved');
  });

  it.each([
    ['nothing at all', {}, 'amend.nothing'],
    ['no reason', { entries: [entry('glasses', PASS)], reason: '' }, 'request.bad_field'],
    ['a criterion of another sheet', { entries: [entry('nowhere', PASS)] }, 'entry.unknown_criterion'],
    [
      'a value of another kind',
      { entries: [entry('glasses', { kind: 'count', count: 2 })] },
      'value.wrong_kind',
    ],
    [
      'an entry that nobody made',
      { entries: [entry('glasses', null, { kind: 'retract', targetId: v7() })] },
      'entry.unknown_target',
    ],
    [
      'a reference of nowhere',
      {
        entries: [
          entry('loss', { kind: 'loss', text: '0.2', unit: 'dB', referenceId: v7() }, { part: '1310' }),
        ],
      },
      'entry.reference_missing',
    ],
  ])('is refused whole for %s, and changes nothing', async (_, body, code) => {
    await signedPiece();
    const before = await own.document();
    expect((await amend(body)).problem.code).toBe(code);
    expect(await own.document()).toEqual(before);
  });

  it('is for instructors of the class, and for signed pieces', async () => {
    const body = { entries: [entry('glasses', PASS)] };
    expect((await amend(body)).problem.code).toBe('attempt.not_signed');
    await signedPiece();
    const [asTrainee, asOther] = await Promise.all([
      own.world.signedIn(own.trainee),
      own.world.signedIn(own.other),
    ]);
    expect([(await amend(body, asTrainee)).status, (await amend(body, asOther)).status]).toEqual([403, 403]);
  });

  it('an entry that was put behind the newest record is found', async () => {
    await signedPiece();
    await own.world.owner.transaction(async (trx) => {
      await trx.raw(`select set_config('clear_mark.amending', ?, true)`, [own.attemptId]);
      const [row] = await trx('entries').where({ attempt_id: own.attemptId }).orderBy('seq', 'desc').limit(1);
      await trx('entries').insert({ ...row, id: v7(), seq: row.seq + 1, value: JSON.stringify(row.value) });
    });
    expect((await findings()).some((f) => f.attemptId === own.attemptId)).toBe(true);
  });
});
