import type { Outcome } from '@clear-mark/core';
import type { Revision } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { describe, expect, it } from 'vitest';
import { entryOf, wholePiece } from './harness.ts';
import { openAttempt } from './open-attempt.ts';

const own = openAttempt();
const PASS = { kind: 'check', passed: true } as const;

describe('the database itself', () => {
  it('keeps entries append only and out of signed attempts', async () => {
    const entry = entryOf(own.attemptId, own.teacher, 'glasses', PASS);
    await own.receiptsOf(own.api, [entry]);
    const row = (db = own.world.owner) => db('entries').where({ id: entry.id });
    await expect(row().update({ part: 'x' })).rejects.toMatchObject({ code: 'CM002' });
    await expect(row().del()).rejects.toMatchObject({ code: 'CM002' });
    await expect(own.world.owner.raw('truncate entries cascade')).rejects.toMatchObject({ code: 'CM002' });
    // The application's own role may not even try, nor switch off what refuses.
    const DENIED = { code: '42501' };
    await expect(row(own.world.db).update({ part: 'x' })).rejects.toMatchObject(DENIED);
    await expect(row(own.world.db).del()).rejects.toMatchObject(DENIED);
    await expect(own.world.db.raw('truncate entries cascade')).rejects.toMatchObject(DENIED);
    await expect(own.world.db.raw('alter table entries disable trigger all')).rejects.toMatchObject(DENIED);
    await expect(own.world.db.raw('drop table signed_revisions')).rejects.toMatchObject(DENIED);
    await expect(own.world.db.raw('create table mine (x int)')).rejects.toMatchObject(DENIED);
    await own.sign([entry.id], { reason: 'left early' });
    const late = { ...(await row().first()), id: v7(), seq: 99 };
    late.value = JSON.stringify(late.value);
    await expect(own.world.db('entries').insert(late)).rejects.toMatchObject({ code: 'CM003' });
    await expect(own.world.db('signed_revisions').update({ hash: 'x' })).rejects.toMatchObject({
      code: 'CM002',
    });
    await expect(
      own.world.db('attempts').where({ id: own.attemptId }).update({ state: 'open' }),
    ).rejects.toMatchObject({
      code: 'CM002',
    });
    await expect(own.world.db('method_versions').update({ title: 'x' })).rejects.toMatchObject({
      code: 'CM001',
    });
  });
});

describe('signing', () => {
  it('signs exactly what was seen, scores it and lays it out for counting', async () => {
    const entries = wholePiece(own.attemptId, own.teacher, await own.references());
    await own.receiptsOf(own.api, entries);
    const reply = await own.sign(entries.map((e) => e.id));
    expect(reply.status).toBe(200);
    const revision = reply.body as Revision;
    expect(revision.outcome.verdict).toBe('pass');
    const skills = await own.world.db('outcome_skills').where({ attempt_id: own.attemptId }).orderBy('skill');
    expect(skills.map((s) => `${s.skill} ${s.mark}`)).toEqual([
      'cleave P',
      'inspect P',
      'strip P',
      'terminate P',
      'test P',
      'whole P',
    ]);
    const losses = await own.world.db('outcome_losses').where({ attempt_id: own.attemptId });
    expect(losses.map((l) => l.loss_db)).toEqual([0.2, 0.2]);
    expect(losses[0].limit_db).toBeCloseTo(0.752, 9);
  });

  it('refuses another set of entries, and changes nothing', async () => {
    const entry = entryOf(own.attemptId, own.teacher, 'glasses', PASS);
    await own.receiptsOf(own.api, [entry]);
    const reply = await own.sign([]);
    expect([reply.status, reply.problem.code]).toEqual([409, 'sign.entries_differ']);
    expect((await own.sign([entry.id, v7()])).problem.code).toBe('sign.entries_differ');
    expect((await own.document()).attempt.state).toBe('open');
  });

  it('an incomplete attempt needs a reason, and is counted apart', async () => {
    expect((await own.sign([])).problem.code).toBe('sign.reason_needed');
    const revision = (await own.sign([], { reason: 'Fire drill' })).body as Revision;
    expect(revision).toMatchObject({ kind: 'signed_incomplete', reason: 'Fire drill' });
    const marks = await own.world.db('outcome_skills').where({ attempt_id: own.attemptId }).pluck('mark');
    expect(new Set(marks)).toEqual(new Set(['I']));
  });

  it('a conflict waits for a choice', async () => {
    const two = [
      entryOf(own.attemptId, own.teacher, 'glasses', PASS),
      entryOf(own.attemptId, own.teacher, 'glasses', PASS),
    ];
    await own.receiptsOf(own.api, two);
    const reply = await own.sign(
      two.map((e) => e.id),
      { reason: 'x' },
    );
    expect(reply.problem.code).toBe('sign.conflict');
    const choice = entryOf(own.attemptId, own.teacher, 'glasses', PASS, { supersedes: two.map((e) => e.id) });
    await own.receiptsOf(own.api, [choice]);
    expect(
      (
        await own.sign(
          [...two, choice].map((e) => e.id),
          { reason: 'x' },
        )
      ).status,
    ).toBe(200);
  });

  it('of two devices at the same moment one signs, the other is told', async () => {
    const replies = await Promise.all(Array.from({ length: 5 }, () => own.sign([], { reason: 'x' })));
    expect(replies.map((r) => r.status).sort()).toEqual([200, 409, 409, 409, 409]);
    expect(replies.find((r) => r.status === 409)!.problem).toMatchObject({ code: 'attempt.signed' });
    expect(await own.world.db('signed_revisions').where({ attempt_id: own.attemptId })).toHaveLength(1);
  });

  it('late entries are kept beside, with the reason, and change nothing', async () => {
    await own.sign([], { reason: 'x' });
    const late = entryOf(own.attemptId, own.teacher, 'glasses', PASS);
    const receipts = await own.receiptsOf(own.api, [late]);
    expect(receipts[0]).toMatchObject({ state: 'unmerged', code: 'attempt.signed' });
    expect(await own.receiptsOf(own.api, [late])).toEqual(receipts);
    const doc = await own.document();
    expect([doc.late.length, doc.entries.length]).toEqual([1, 0]);
  });

  it('a void reading fails the test skill alone and leaves the sample', async () => {
    const entries = wholePiece(own.attemptId, own.teacher, await own.references(), {}, '-0.5');
    await own.receiptsOf(own.api, entries);
    const { outcome } = (await own.sign(entries.map((e) => e.id))).body as { outcome: Outcome };
    expect(outcome.skills.test?.verdict).toBe('fail');
    expect(outcome.skills.terminate?.verdict).toBe('pass');
    const losses = await own.world.db('outcome_losses').where({ attempt_id: own.attemptId });
    expect(losses.map((l) => [l.mark, l.loss_db])).toEqual([
      ['V', null],
      ['V', null],
    ]);
  });

  it('a reference over four hours old makes the reading void', async () => {
    const old = await own.references(new Date(Date.now() - 5 * 3_600_000).toISOString());
    const entries = wholePiece(own.attemptId, own.teacher, old);
    await own.receiptsOf(own.api, entries);
    const { outcome } = (await own.sign(entries.map((e) => e.id))).body as { outcome: Outcome };
    expect(outcome.criteria.find((c) => c.parts.length > 0)!.parts[0]!.reason?.code).toBe(
      'void.reference_old',
    );
  });

  it('a failure charged to its cause counts in that skill', async () => {
    const said = { 'trainee-verdict': { kind: 'call', said: 'fail' } } as const;
    const entries = wholePiece(own.attemptId, own.teacher, await own.references(), said, '0.95');
    const charge = entryOf(
      own.attemptId,
      own.teacher,
      'loss',
      { kind: 'charge', skill: 'cleave', cause: 'bad_cleave' },
      { kind: 'charge', part: 'charge' },
    );
    const wrong = { ...charge, id: v7(), part: '1310' };
    const states = (await own.receiptsOf(own.api, [...entries, charge, wrong])).map((r) => r.state);
    expect(states.slice(-2)).toEqual(['accepted', 'refused']);
    await own.sign([...entries, charge].map((e) => e.id));
    const marks = await own.world.db('outcome_skills').where({ attempt_id: own.attemptId }).orderBy('skill');
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
    const revision = (await own.sign([], { asVoid: true, reason: 'Cleaver broke' })).body as Revision;
    expect(revision.kind).toBe('void');
    const marks = await own.world.db('outcome_skills').where({ attempt_id: own.attemptId }).pluck('mark');
    expect(new Set(marks)).toEqual(new Set(['V']));
    expect(await own.world.db('outcome_criteria').where({ attempt_id: own.attemptId })).toHaveLength(0);
  });
});
