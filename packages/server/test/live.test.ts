import type { AttemptChanges, CatchUp, OwnBench, Person, TodayTile } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { attemptBody, batch, type Caller, entryOf, type TestClass, World, seen } from './harness.ts';

const PASS = { kind: 'check', passed: true } as const;

let world: World;
let teacher: Person;
let second: Person;
let trainee: Person;
let other: Person;
let api: Caller;
let asSecond: Caller;
let asTrainee: Caller;
let classroom: TestClass;

beforeAll(async () => {
  world = await World.make();
  [teacher, second, trainee, other] = await Promise.all([
    world.person('instructor', 'Tora'),
    world.person('instructor', 'Sefa'),
    world.person('trainee', 'Ilan'),
    world.person('trainee', 'Odil'),
  ]);
  [api, asSecond, asTrainee] = await Promise.all([
    world.signedIn(teacher),
    world.signedIn(second),
    world.signedIn(trainee),
  ]);
});
beforeEach(async () => {
  classroom = await world.classOf([teacher, second], [trainee, other]);
});
afterAll(() => world.close());

const start = async (caller = api, who = trainee): Promise<string> => {
  const body = attemptBody(classroom, who);
  const reply = await caller.post(`/classes/${classroom.id}/attempts`, body);
  expect(reply.status).toBe(200);
  return body.id;
};
const send = async (caller: Caller, entries: readonly unknown[]) =>
  ((await caller.post('/entries', batch(entries))).body as { receipts: { state: string; code?: string }[] })
    .receipts;
const catchUp = async (known: Record<string, number> = {}): Promise<CatchUp> =>
  (await api.post(`/classes/${classroom.id}/catch-up`, { known })).body as CatchUp;

describe('catching up with a class', () => {
  it('knowing nothing gives every open attempt, and a tile for every trainee', async () => {
    const id = await start();
    await send(api, [entryOf(id, teacher, 'glasses', PASS)]);
    const all = await catchUp();
    expect(all.attempts).toMatchObject([
      { id, traineeName: 'Ilan', pieceLabel: 'T-01', entries: [{ seq: 1, kind: 'value', clockOffsetMs: 0 }] },
    ]);
    expect(all.attempts[0]!.things).toHaveLength(3);
    expect(all.tiles!.map((t) => t.traineeName)).toEqual(['Ilan', 'Odil']);
    const tile = all.tiles!.find((t: TodayTile) => t.traineeId === trainee.id)!;
    expect(tile).toMatchObject({ lastVersionId: classroom.versionId, pieces: 1, today: [] });
    expect([...tile.lastThingIds].sort()).toEqual(Object.values(classroom.things).sort());
    expect(Math.abs(Date.parse(all.now) - Date.now())).toBeLessThan(5000);
  });

  it('knowing something gives what came after it; a gap is closed by the same call', async () => {
    const id = await start();
    await send(
      api,
      ['glasses', 'kit', 'shards-ready'].map((name) => entryOf(id, teacher, name, PASS)),
    );
    expect((await catchUp({ [id]: 3 })).attempts).toEqual([]);
    const after = await catchUp({ [id]: 1 });
    expect(after.attempts[0]!.entries.map((e) => e.seq)).toEqual([2, 3]);
    expect(after.tiles).toBeNull();
  });

  it('names what was signed meanwhile, with the tiles as they are now', async () => {
    const id = await start();
    await api.post(`/attempts/${id}/sign`, { ...seen([]), reason: 'Bench needed', asVoid: false });
    const now = await catchUp({ [id]: 0 });
    expect(now.closed).toEqual([id]);
    expect(now.tiles!.find((t) => t.traineeId === trainee.id)!.today).toMatchObject([{ attemptId: id }]);
  });

  it('is for the instructors of the class', async () => {
    const stranger = await world.signedIn(await world.person('instructor'));
    const path = `/classes/${classroom.id}/catch-up`;
    expect((await stranger.post(path, { known: {} })).problem.code).toBe('auth.not_in_class');
    expect((await asTrainee.post(path, { known: {} })).problem.code).toBe('auth.role');
    expect((await api.post(path, { known: { [v7()]: -1 } })).problem.code).toBe('request.bad_field');
  });
});

describe('the notifier', () => {
  /** Opens a stream as a browser does; gives what it said so far, and closes it. */
  async function hear(person: Person, path: string) {
    const heard: string[] = [];
    const signIn = await fetch(`${world.server.url}/api/session`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ login: person.login, password: 'correct horse battery' }),
    });
    const stop = new AbortController();
    const reply = await fetch(`${world.server.url}/api${path}`, {
      headers: { Cookie: signIn.headers.get('set-cookie')!.split(';')[0]! },
      signal: stop.signal,
    });
    const reader = reply.body!.getReader();
    void (async () => {
      const decoder = new TextDecoder();
      for (;;) {
        const { done, value } = await reader.read();
        if (done) return;
        for (const line of decoder.decode(value).split('\n')) {
          if (!line.startsWith('data: ')) continue;
          // News of entries carries them; other news are one word.
          if (line.startsWith('data: {')) {
            const { attempts } = JSON.parse(line.slice(6)) as {
              attempts: { id: string; entries: { seq: number }[] }[];
            };
            for (const { id, entries } of attempts) heard.push(...entries.map((e) => `${id} ${e.seq}`));
          } else heard.push(line.slice(6));
        }
      }
    })().catch(() => undefined);
    return {
      heard,
      status: reply.status,
      type: reply.headers.get('content-type'),
      close: () => stop.abort(),
    };
  }
  const until = async (holds: () => boolean): Promise<number> => {
    const from = Date.now();
    while (!holds()) {
      if (Date.now() - from > 5000) throw new Error('not heard');
      await new Promise((done) => setTimeout(done, 10));
    }
    return Date.now() - from;
  };

  it('rings for entries, new attempts and references of its class, and for no other', async () => {
    const elsewhere = await world.classOf([teacher], [trainee]);
    const id = await start();
    const notifier = await hear(second, `/classes/${classroom.id}/events`);
    expect([notifier.status, notifier.type]).toEqual([200, 'text/event-stream']);
    await until(() => notifier.heard.includes('hello'));
    const quiet = notifier.heard.length;
    await api.post(`/classes/${elsewhere.id}/attempts`, attemptBody(elsewhere));
    await send(api, [entryOf(id, teacher, 'glasses', PASS)]);
    await until(() => notifier.heard.length > quiet);
    expect(notifier.heard.slice(quiet)).toEqual([`${id} 1`]);
    await api.post(`/classes/${classroom.id}/references`, {
      id: v7(),
      instrumentId: classroom.things['instrument'],
      method: 'single_cord',
      wavelengthNm: 1310,
      valueDbm: '-5.0',
      setAt: new Date().toISOString(),
      showsNegative: false,
    });
    await until(() => notifier.heard.includes('references'));
    notifier.close();
  });

  it('rings once for a batch of many, and not for one that changed nothing', async () => {
    const id = await start();
    const entries = Array.from({ length: 50 }, () =>
      entryOf(id, teacher, 'glasses', null, { kind: 'note', note: 'x' }),
    );
    const notifier = await hear(teacher, `/attempts/${id}/events`);
    await until(() => notifier.heard.includes('hello'));
    const before = notifier.heard.length;
    await send(api, entries);
    await until(() => notifier.heard.length > before);
    await send(api, entries);
    await new Promise((done) => setTimeout(done, 200));
    expect(notifier.heard.length).toBe(before + 1);
    notifier.close();
  });

  it('is made again after the database cut it, and rings then, since something may have been missed', async () => {
    const notifier = await hear(teacher, `/classes/${classroom.id}/events`);
    await until(() => notifier.heard.includes('hello'));
    const before = notifier.heard.length;
    await world.db.raw(
      `select pg_terminate_backend(pid) from pg_stat_activity
        where query = 'listen clear_mark' and datname = current_database()`,
    );
    await until(() => notifier.heard.length > before);
    const id = await start();
    await until(() => notifier.heard.includes(id));
    notifier.close();
  });

  it('a trainee hears the own attempt only', async () => {
    const mine = await start(api, trainee);
    const theirs = await start(api, other);
    const own = await hear(trainee, `/attempts/${mine}/events`);
    expect(own.status).toBe(200);
    own.close();
    for (const path of [`/attempts/${theirs}/events`, `/classes/${classroom.id}/events`]) {
      const refused = await hear(trainee, path);
      expect(refused.status).toBe(403);
      refused.close();
    }
  });
});

describe('a trainee at the own bench', () => {
  it('starts the own piece and nobody else’s', async () => {
    const id = await start(asTrainee, trainee);
    const changes = (await asTrainee.get(`/attempts/${id}/changes?after=0`)).body as AttemptChanges;
    expect(changes).toMatchObject({ state: 'open', entries: [] });
    const path = `/classes/${classroom.id}/attempts`;
    expect((await asTrainee.post(path, attemptBody(classroom, other))).problem.code).toBe(
      'auth.not_in_class',
    );
    const outside = await world.signedIn(await world.person('trainee'));
    expect((await outside.post(path, attemptBody(classroom, trainee))).problem.code).toBe(
      'auth.not_in_class',
    );
  });

  it('sees what can be started and what is open, of the running classes and of nobody else', async () => {
    const ended = await world.classOf([teacher], [trainee]);
    await world
      .db('classes')
      .where({ id: ended.id })
      .update({ starts_on: '2020-01-01', ends_on: '2020-01-05' });
    await start(api, other);
    const before = (await asTrainee.get('/me/bench')).body as OwnBench[];
    const mine = before.find((b) => b.classId === classroom.id)!;
    expect(mine).toMatchObject({ open: [], pieces: 0, lastVersionId: null, lastThingIds: [] });
    expect(mine.methods).toMatchObject([{ versionId: classroom.versionId }]);
    expect(before.some((b) => b.classId === ended.id)).toBe(false);
    const id = await start(asTrainee, trainee);
    const after = ((await asTrainee.get('/me/bench')).body as OwnBench[]).find(
      (b) => b.classId === classroom.id,
    )!;
    expect(after).toMatchObject({
      open: [{ attemptId: id, pieceLabel: 'T-01' }],
      pieces: 1,
      lastVersionId: classroom.versionId,
    });
    expect(after.lastThingIds).toHaveLength(3);
    expect((await api.get('/me/bench')).body).toEqual([]);
  });

  it('raises a hand and starts a timer; neither is a score', async () => {
    const id = await start(asTrainee, trainee);
    const hand = entryOf(id, trainee, 'glasses', { kind: 'hand' }, { kind: 'hand', part: 'hand' });
    const timer = entryOf(
      id,
      trainee,
      'settle',
      { kind: 'timer', startedAt: new Date().toISOString() },
      { kind: 'timer', part: 'timer' },
    );
    const wrong = entryOf(id, trainee, 'glasses', { kind: 'hand' }, { part: 'hand' });
    expect((await send(asTrainee, [hand, timer, wrong])).map((r) => r.code ?? r.state)).toEqual([
      'accepted',
      'accepted',
      'value.wrong_kind',
    ]);
    const answered = entryOf(id, teacher, 'glasses', null, {
      kind: 'retract',
      part: 'hand',
      targetId: hand.id,
    });
    expect((await send(api, [answered]))[0]!.state).toBe('accepted');
  });

  it('can be sent by a batch of which one is bad: the 199 others stand', async () => {
    const id = await start(asTrainee, trainee);
    const entries = Array.from({ length: 200 }, (_, i) =>
      entryOf(id, trainee, 'glasses', null, {
        kind: 'note',
        note: `n${i}`,
        ...(i === 77 ? { note: '' } : {}),
      }),
    );
    const receipts = await send(asTrainee, entries);
    expect(receipts.filter((r) => r.state === 'accepted')).toHaveLength(199);
    expect(receipts[77]).toMatchObject({ state: 'refused', code: 'request.bad_field' });
  });
});

describe('the queue of a shared tablet', () => {
  it('is handed in by another instructor and stays its author’s', async () => {
    const id = await start();
    const entry = entryOf(id, teacher, 'glasses', PASS);
    expect((await send(asSecond, [entry]))[0]!.state).toBe('accepted');
    const [row] = await world.db('entries').where({ id: entry.id }).select('author_id', 'delivered_by');
    expect(row).toEqual({ author_id: teacher.id, delivered_by: second.id });
    // Sent again by its author, it is the same entry.
    expect((await send(api, [entry]))[0]!.state).toBe('accepted');
    expect(await world.db('entries').where({ attempt_id: id })).toHaveLength(1);
  });
  it('is not handed in by a trainee, nor for someone who left the class, nor for nobody', async () => {
    const id = await start();
    expect((await send(asTrainee, [entryOf(id, teacher, 'glasses', PASS)]))[0]).toMatchObject({
      code: 'entry.not_author',
    });
    await world.db('class_members').where({ class_id: classroom.id, person_id: second.id }).del();
    const left = await send(api, [entryOf(id, second, 'glasses', PASS)]);
    expect(left[0]).toMatchObject({ state: 'refused', code: 'entry.author_left' });
    const ghost = { ...entryOf(id, teacher, 'glasses', PASS), authorId: v7() };
    expect((await send(api, [ghost]))[0]).toMatchObject({ code: 'entry.not_author' });
    expect(await world.db('entries').where({ attempt_id: id })).toHaveLength(0);
  });
  it('two devices an hour apart: both offsets are kept with their entries', async () => {
    const id = await start();
    const hour = 3_600_000;
    const late = new Date(Date.now() - hour).toISOString();
    await api.post('/entries', {
      entries: [entryOf(id, teacher, 'glasses', PASS, { at: late })],
      sentAt: late,
    });
    await send(asSecond, [entryOf(id, second, 'kit', PASS)]);
    const { attempts } = await catchUp();
    const offsets = attempts[0]!.entries.map((e) => e.clockOffsetMs);
    expect(Math.abs(offsets[0]! - hour)).toBeLessThan(5000);
    expect(offsets[1]).toBe(0);
  });
  it('a reference set on a device an hour behind stands at the server’s time', async () => {
    const late = new Date(Date.now() - 3_600_000).toISOString();
    const reply = await api.post(`/classes/${classroom.id}/references`, {
      id: v7(),
      instrumentId: classroom.things['instrument'],
      method: 'one_cord',
      wavelengthNm: 1310,
      valueDbm: '-5.1',
      setAt: late,
      sentAt: late,
      showsNegative: false,
    });
    const { setAt } = reply.body as { setAt: string };
    expect(Math.abs(Date.parse(setAt) - Date.now())).toBeLessThan(5000);
  });
});
