import { randomUUID } from 'node:crypto';
import {
  type Database,
  migrate,
  openDatabase,
  readConfig,
  startServer,
  syncShippedMethods,
} from '@clear-mark/server';
import { loadDemo } from '../load-demo.ts';
import { type Measured, medianOf } from './measured.ts';

const ENTRIES = 5000;
const BATCH = 200;
const ROUNDS = 3;

/** Taking 5,000 queued entries in batches of 200, against bare multi-row INSERTs of as many rows in the same batches. */
export async function benchDrain(url: string): Promise<Measured> {
  const db = openDatabase(url, 4);
  await migrate(db);
  await syncShippedMethods(db);
  await loadDemo(db, { seed: 7, story: true, now: new Date() });
  const server = await startServer(
    readConfig({ DATABASE_URL: url, CLEAR_MARK_MODE: 'demo', CLEAR_MARK_LOG_LEVEL: 'error' }),
  );
  try {
    const signIn = await fetch(`${server.url}/api/session/demo`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ role: 'lead' }),
    });
    const cookie = signIn.headers.get('set-cookie')!.split(';')[0]!;
    const me = ((await signIn.json()) as { id: string }).id;
    const open: Open[] = await db('attempts as a')
      .join('method_versions as v', 'v.id', 'a.method_version_id')
      .where('a.state', 'open')
      .select('a.id', 'v.method_id as method')
      .orderBy('a.id');
    const pairs: { drain: number; bare: number }[] = [];
    for (let round = 0; round < ROUNDS; round++) {
      // The order changes, so that neither finds the other's pages warm each time.
      const acts = [
        async () => void (bare = await timed(() => insertBare(db, open, me))),
        async () => void (drain = await timed(() => drainThrough(server.url, cookie, open, me))),
      ];
      let bare = 0;
      let drain = 0;
      for (const act of round % 2 === 0 ? acts : acts.reverse()) await act();
      pairs.push({ drain, bare });
    }
    return {
      name: `${ENTRIES} queued entries taken / bare INSERTs of them`,
      ratio: medianOf(pairs.map((p) => p.drain / p.bare)),
      most: 1.3,
      unit: 'times',
      detail: `median of ${ROUNDS}: ${medianOf(pairs.map((p) => p.drain)).toFixed(0)} ms against ${medianOf(pairs.map((p) => p.bare)).toFixed(0)} ms, ${BATCH} a batch`,
    };
  } finally {
    await server.stop();
    await db.destroy();
  }
}

/** An open attempt; an attempt takes 5,000 entries at most, so a queue goes to all of them in turn. */
interface Open {
  readonly id: string;
  readonly method: string;
}

async function timed(act: () => Promise<void>): Promise<number> {
  const from = process.hrtime.bigint();
  await act();
  return Number(process.hrtime.bigint() - from) / 1e6;
}

const DEVICE = randomUUID();
const entryOf = (attempt: Open, authorId: string) => ({
  id: randomUUID(),
  attemptId: attempt.id,
  kind: 'value',
  criterionId: `${attempt.method}/glasses`,
  part: '',
  value: { kind: 'check', passed: true },
  voidReason: null,
  note: null,
  authorId,
  capacity: 'instructor',
  deviceId: DEVICE,
  source: 'typed',
  at: new Date().toISOString(),
  supersedes: [],
  targetId: null,
});

async function drainThrough(url: string, cookie: string, open: readonly Open[], me: string): Promise<void> {
  for (let done = 0; done < ENTRIES; done += BATCH) {
    const attempt = open[(done / BATCH) % open.length]!;
    const entries = Array.from({ length: BATCH }, () => entryOf(attempt, me));
    const reply = await fetch(`${url}/api/entries`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', Cookie: cookie },
      body: JSON.stringify({ entries, sentAt: new Date().toISOString() }),
    });
    const { receipts } = (await reply.json()) as { receipts: { state: string }[] };
    if (receipts.some((r) => r.state !== 'accepted')) throw new Error('an entry was not taken');
  }
}

async function insertBare(db: Database, open: readonly Open[], me: string): Promise<void> {
  for (let done = 0; done < ENTRIES; done += BATCH) {
    const attempt = open[(done / BATCH) % open.length]!;
    const [{ next }] = await db('attempts').where({ id: attempt.id }).select('next_seq as next');
    let seq = Number(next);
    const rows = Array.from({ length: BATCH }, () => {
      const e = entryOf(attempt, me);
      return {
        id: e.id,
        attempt_id: e.attemptId,
        seq: seq++,
        kind: e.kind,
        criterion_id: e.criterionId,
        part: e.part,
        value: JSON.stringify(e.value),
        author_id: e.authorId,
        capacity: e.capacity,
        device_id: e.deviceId,
        source: e.source,
        at: e.at,
      };
    });
    await db('entries').insert(rows);
    await db('attempts').where({ id: attempt.id }).update({ next_seq: seq });
  }
}
