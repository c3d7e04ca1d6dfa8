import type { AttemptDocument, EntryReceipt, Person } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import {
  attemptBody,
  batch,
  type Caller,
  entryOf,
  seen,
  type TestClass,
  wholePiece,
  World,
} from './harness.ts';
import { setReferences } from './open-attempt.ts';

const PASS = { kind: 'check', passed: true } as const;
let world: World;
let lead: Person;
let teacher: Person;
let trainee: Person;
let asLead: Caller;
let asTeacher: Caller;
let asTrainee: Caller;
let classroom: TestClass;
let attemptId: string;

beforeAll(async () => {
  world = await World.make();
  [lead, teacher, trainee] = [
    await world.person('lead'),
    await world.person('instructor'),
    await world.person('trainee'),
  ];
  classroom = await world.classOf([teacher], [trainee]);
  [asLead, asTeacher, asTrainee] = [
    await world.signedIn(lead),
    await world.signedIn(teacher),
    await world.signedIn(trainee),
  ];
});
afterAll(() => world.close());
beforeEach(async () => {
  // Starts are counted by the minute: each test begins with none.
  await world.owner.raw(`update attempts set received_at = '2026-01-05T00:00:00Z'`);
  attemptId = await start(asTeacher);
});

async function start(who: Caller, more: object = {}): Promise<string> {
  const body = attemptBody(classroom, trainee, more);
  const reply = await who.post(`/classes/${classroom.id}/attempts`, body);
  if (reply.status !== 200) throw new Error(reply.problem.code);
  return body.id;
}
const send = async (who: Caller, entries: readonly unknown[], sentAt?: string): Promise<EntryReceipt[]> => {
  const reply = await who.post('/entries', sentAt ? { entries, sentAt } : batch(entries));
  return (reply.body as { receipts: EntryReceipt[] }).receipts;
};
const document = async (who = asTeacher, id = attemptId): Promise<AttemptDocument> =>
  (await who.get(`/attempts/${id}`)).body;
const note = (author: Person, text = 'x', more: object = {}) =>
  entryOf(attemptId, author, 'glasses', null, { kind: 'note', note: text, ...more });
const codes = (receipts: readonly EntryReceipt[]) =>
  receipts.map((r) => (r.state === 'accepted' ? 'accepted' : r.code));

describe('a batch of several attempts', () => {
  it('answers each entry by its own, whatever their order', async () => {
    const other = await start(asTeacher);
    const ids = [attemptId, other].sort();
    const of = (i: number, more: object = {}) => ({
      ...note(teacher, `${i}`, more),
      attemptId: ids[i % 2 === 0 ? 1 : 0]!,
    });
    const entries = [of(0), of(1), of(2), of(3, { source: 'computed' }), of(4), of(5)];
    const receipts = await send(asTeacher, entries);
    expect(receipts.map((r) => r.id)).toEqual(entries.map((e) => e.id));
    expect(codes(receipts)).toEqual([
      ...Array(3).fill('accepted'),
      'entry.source',
      ...Array(2).fill('accepted'),
    ]);
    expect(receipts.map((r) => (r.state === 'accepted' ? r.seq : 0))).toEqual([1, 1, 2, 0, 3, 2]);
    for (const id of ids) {
      const stored = await document(asTeacher, id);
      for (const e of stored.entries) {
        expect(receipts.find((r) => r.id === e.id)).toMatchObject({ seq: e.seq });
      }
    }
    expect(await send(asTeacher, entries)).toEqual(receipts);
  });
});

describe('what only the server says', () => {
  it.each(['computed', 'picture'] as const)(
    'a figure with the source %s comes from nobody else',
    async (source) => {
      const forged = (author: Person) => entryOf(attemptId, author, 'glasses', PASS, { source });
      expect(codes(await send(asTrainee, [forged(trainee)]))).toEqual(['entry.source']);
      expect(codes(await send(asTeacher, [forged(teacher)]))).toEqual(['entry.source']);
      expect(codes(await send(asLead, [forged(lead)]))).toEqual(['entry.source']);
      expect((await document()).entries).toEqual([]);
    },
  );
});

describe('what one person hands in for another', () => {
  it('says so everywhere, and waits for its author where it carries an instructor’s authority', async () => {
    const entry = entryOf(attemptId, teacher, 'glasses', PASS);
    expect(codes(await send(asLead, [entry]))).toEqual(['accepted']);
    expect((await document()).entries).toMatchObject([{ deliveredBy: lead.name, confirmed: false }]);
    const catchUp = (await asTeacher.post(`/classes/${classroom.id}/catch-up`, { known: {} })).body as {
      attempts: { id: string; entries: object[] }[];
    };
    expect(catchUp.attempts.find((a) => a.id === attemptId)!.entries).toMatchObject([
      { deliveredBy: lead.name },
    ]);
    const confirm = (who: Caller) =>
      who.post(`/attempts/${attemptId}/confirmations`, { entryIds: [entry.id] });
    expect((await confirm(asLead)).problem.code).toBe('entry.confirm_own');
    expect((await confirm(asTeacher)).status).toBe(200);
    expect((await confirm(asTeacher)).status).toBe(200);
    expect((await document()).entries).toMatchObject([{ deliveredBy: lead.name, confirmed: true }]);
  });

  it('is stood by when its author sends the same from the own device', async () => {
    const entry = note(teacher);
    await send(asLead, [entry]);
    expect(codes(await send(asTeacher, [entry]))).toEqual(['accepted']);
    expect((await document()).entries).toMatchObject([{ deliveredBy: lead.name, confirmed: true }]);
  });

  it('what was entered by its author says nothing more', async () => {
    await send(asTeacher, [note(teacher)]);
    expect(Object.keys((await document()).entries[0]!)).not.toContain('deliveredBy');
  });
});

describe('times of a device', () => {
  const MINUTE = 60_000;
  it.each([
    ['1990', '2009-01-01T00:00:00.000Z', (held: number) => held === Date.parse('2026-01-05T00:00:00Z')],
    ['2031', '2031-01-01T00:00:00.000Z', (held: number) => Math.abs(held - Date.now() - MINUTE) < 20_000],
  ])('a piece dated %s is held to what can be, and says what was claimed', async (_, startedAt, right) => {
    const id = await start(asTeacher, { startedAt });
    const { attempt } = await document(asTeacher, id);
    expect(right(Date.parse(attempt.startedAt))).toBe(true);
    expect(attempt.claimedStartedAt).toBe(startedAt);
  });

  it('an entry as well, and the same entry sent again is the same', async () => {
    const entries = [note(teacher, 'old', { at: '2010-03-01T00:00:00.000Z' })];
    for (let again = 0; again < 2; again++) {
      const [receipt] = await send(asTeacher, entries);
      expect(receipt).toMatchObject({ state: 'accepted', seq: 1 });
      if (again === 0) expect(receipt).toMatchObject({ at: '2026-01-05T00:00:00.000Z' });
    }
    const { entries: stored } = await document();
    expect(stored).toMatchObject([{ at: '2026-01-05T00:00:00.000Z', claimedAt: '2010-03-01T00:00:00.000Z' }]);
    const other = { ...entries[0]!, at: '2011-03-01T00:00:00.000Z' };
    expect(codes(await send(asTeacher, [other]))).toEqual(['entry.other_content']);
  });

  it('does not go back behind what the same device was acknowledged for; another device may be behind', async () => {
    const now = Date.now();
    const at = (ms: number): string => new Date(now + ms).toISOString();
    const mine = v7();
    const other = v7();
    const say = (deviceId: string, ms: number) => note(teacher, `${ms}`, { deviceId, at: at(ms) });
    await send(asTeacher, [say(mine, -10 * MINUTE), say(mine, -5 * MINUTE), say(mine, -8 * MINUTE)]);
    await send(asTeacher, [say(mine, -9 * MINUTE), say(other, -9 * MINUTE), say(mine, -5 * MINUTE - 2000)]);
    const { entries } = await document();
    const minutes = entries.map((e) => Math.round((Date.parse(e.at) - now) / MINUTE));
    expect(minutes).toEqual([-10, -5, -5, -5, -9, -5]);
    expect(entries.map((e) => e.claimedAt !== undefined)).toEqual([false, false, true, true, false, false]);
  });

  it('of a device whose clock is an hour ahead are taken by the server’s clock, not held', async () => {
    const hour = (ms: number): string => new Date(Date.now() + 60 * MINUTE + ms).toISOString();
    const entry = note(teacher, 'ahead', { at: hour(-1000) });
    expect(codes(await send(asTeacher, [entry], hour(0)))).toEqual(['accepted']);
    const [stored] = (await document()).entries;
    expect(stored!.claimedAt).toBeUndefined();
    expect(Date.parse(stored!.at) + stored!.clockOffsetMs).toBeLessThan(Date.now() + 1000);
  });

  it('inside a value are never rewritten: what cannot be is refused', async () => {
    const value = {
      kind: 'timed',
      startedAt: '2031-01-01T00:00:00Z',
      stoppedAt: '2031-01-01T00:05:00Z',
    } as const;
    expect(codes(await send(asTeacher, [entryOf(attemptId, teacher, 'settle', value)]))).toEqual([
      'entry.time',
    ]);
  });

  it('of a reference and of a picture are held as well', async () => {
    const id = v7();
    await asTeacher.post(`/classes/${classroom.id}/references`, {
      id,
      instrumentId: classroom.things['instrument'],
      method: 'single_cord',
      wavelengthNm: 1310,
      valueDbm: '-5.0',
      setAt: '2031-01-01T00:00:00Z',
      showsNegative: false,
    });
    const [row] = await world.db('loss_references').where({ id });
    expect(Date.parse(row.set_at)).toBeLessThan(Date.now() + 2 * MINUTE);
    expect(row.claimed_set_at).toBe('2031-01-01T00:00:00.000Z');
  });
});

describe('what one person can do to others', () => {
  const sign = (id: string, entryIds: readonly string[], reason: string | null = 'enough') =>
    asTeacher.post(`/attempts/${id}/sign`, { ...seen(entryIds), reason, asVoid: false });

  it('a trainee’s thousand notes leave room for the instructor, and five thousand entries are signed', async () => {
    const own = Array.from({ length: 1100 }, () => note(trainee));
    const receipts: EntryReceipt[] = [];
    for (let at = 0; at < own.length; at += 500)
      receipts.push(...(await send(asTrainee, own.slice(at, at + 500))));
    expect(codes(receipts).filter((c) => c === 'accepted')).toHaveLength(1000);
    expect(new Set(codes(receipts).slice(1000))).toEqual(new Set(['attempt.full']));
    const mine = Array.from({ length: 4010 }, () => note(teacher));
    const taken: EntryReceipt[] = [];
    for (let at = 0; at < mine.length; at += 500)
      taken.push(...(await send(asTeacher, mine.slice(at, at + 500))));
    expect(codes(taken).filter((c) => c === 'accepted')).toHaveLength(4000);
    const ids = (await document()).entries.map((e) => e.id);
    expect(ids).toHaveLength(5000);
    expect((await sign(attemptId, ids)).status).toBe(200);
  });

  it('starts of a minute and open pieces have an end', async () => {
    const startMany = async (caller: typeof asTeacher, count: number): Promise<string[]> => {
      const sent = Array.from({ length: count }, () =>
        caller.post(`/classes/${classroom.id}/attempts`, attemptBody(classroom, trainee)),
      );
      return (await Promise.all(sent)).map((reply) => (reply.status === 200 ? 'taken' : reply.problem.code));
    };
    const isOpen = () => world.db('attempts').where({ trainee_id: trainee.id, state: 'open' });
    // All at once: each is counted against the limits before the next is looked at.
    const lately = await world.db('attempts').where({ started_by: trainee.id });
    const own = await startMany(asTrainee, 15);
    expect(own.filter((said) => said === 'taken')).toHaveLength(Math.max(0, 10 - lately.length));
    expect(own).toContain('attempt.too_many_starts');
    await world.owner.raw(`update attempts set received_at = '2026-01-05T00:00:00Z'`);
    expect(await startMany(asTeacher, 45)).toContain('attempt.too_many_open');
    expect(await isOpen()).toHaveLength(40);
    // A start that was sent before is no new one.
    await world.db('attempts').where({ trainee_id: trainee.id, state: 'open', next_seq: 1 }).update({
      state: 'withdrawn',
      withdrawn_by: teacher.id,
      withdrawn_at: new Date(),
    });
  });

  it('an attempt that was never used is withdrawn, kept, and takes nothing; a used one is not', async () => {
    const unused = await start(asTrainee);
    expect((await asTrainee.post(`/attempts/${unused}/withdrawal`, {})).status).toBe(200);
    expect((await asTrainee.post(`/attempts/${unused}/withdrawal`, {})).status).toBe(200);
    expect((await document(asTeacher, unused)).attempt.state).toBe('withdrawn');
    const own = await asTrainee.get('/me/attempts');
    expect([own.status, JSON.stringify(own.body).includes(unused)]).toEqual([200, false]);
    expect((await asTrainee.get('/me/bench')).status).toBe(200);
    const late = { ...note(teacher), attemptId: unused };
    expect(codes(await send(asTeacher, [late]))).toEqual(['attempt.withdrawn']);
    expect((await sign(unused, [])).problem.code).toBe('attempt.withdrawn');
    await send(asTeacher, [note(teacher)]);
    expect((await asTeacher.post(`/attempts/${attemptId}/withdrawal`, {})).problem.code).toBe(
      'attempt.not_empty',
    );
    await expect(
      world.owner('attempts').where({ id: attemptId }).update({ state: 'withdrawn' }),
    ).rejects.toMatchObject({ code: 'CM002' });
  });

  it('a signature names what was seen: one entry more or another one is refused', async () => {
    const references = await setReferences(asTeacher, classroom);
    const entries = wholePiece(attemptId, teacher, references);
    await send(asTeacher, entries);
    const ids = entries.map((e) => e.id);
    expect((await sign(attemptId, ids.slice(1), null)).problem.code).toBe('sign.entries_differ');
    expect((await sign(attemptId, [...ids.slice(1), v7()], null)).problem.code).toBe('sign.entries_differ');
    expect((await sign(attemptId, [...ids].reverse(), null)).status).toBe(200);
    // What comes now is kept beside it and told.
    expect(codes(await send(asTeacher, [note(teacher, 'too late')]))).toEqual(['attempt.signed']);
    expect((await document()).notices).toMatchObject([{ cause: 'entry_late', by: teacher.name }]);
  });
});
