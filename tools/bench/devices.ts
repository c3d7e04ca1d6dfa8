import { randomUUID } from 'node:crypto';
import { type Database, openDatabase, verifyRecords } from '@clear-mark/server';

export const DEVICES = 4;

/** A piece begun for each device, of one method. */
export async function startPieces(
  db: Database,
  url: string,
  cookie: string,
): Promise<{ id: string; method: string }[]> {
  const rows: { class_id: string; trainee_id: string; method_version_id: string; method: string }[] =
    await db('attempts as a')
      .join('method_versions as v', 'v.id', 'a.method_version_id')
      .where('v.method_id', 'clear-mark/lc-wedge-locator')
      .distinct('a.class_id', 'a.trainee_id', 'a.method_version_id', 'v.method_id as method')
      .orderBy('a.trainee_id');
  const made: { id: string; method: string }[] = [];
  // Others each time: a trainee has only so many pieces open.
  const from = Math.floor(Math.random() * rows.length);
  for (const r of [...rows.slice(from), ...rows.slice(0, from)].slice(0, DEVICES)) {
    const id = randomUUID();
    const now = new Date().toISOString();
    const reply = await fetch(`${url}/api/classes/${r.class_id}/attempts`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', Cookie: cookie },
      body: JSON.stringify({
        id,
        traineeId: r.trainee_id,
        methodVersionId: r.method_version_id,
        pieceId: randomUUID(),
        pieceLabel: 'F-1',
        thingIds: [],
        startedAt: now,
        sentAt: now,
        deviceId: randomUUID(),
      }),
    });
    if (!reply.ok) throw new Error(`start: ${await reply.text()}`);
    made.push({ id, method: r.method });
  }
  return made;
}

/** Sends one entry: the sequence number when it was acknowledged; null when nothing is known or the server could not. */
export async function sendOnce(url: string, cookie: string, body: object): Promise<number | null> {
  try {
    const reply = await fetch(`${url}/api/entries`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', Cookie: cookie },
      body: JSON.stringify(body),
      signal: AbortSignal.timeout(8000),
    });
    if (!reply.ok) return null;
    const { receipts } = (await reply.json()) as {
      receipts: { state: string; seq?: number; code?: string }[];
    };
    const [receipt] = receipts;
    if (receipt?.state === 'refused') throw new TypeError(`refused: ${receipt.code}`);
    return receipt?.state === 'accepted' ? receipt.seq! : null;
  } catch (error) {
    if (error instanceof TypeError && error.message.startsWith('refused')) throw error;
    return null;
  }
}

/** What of the acknowledged entries is wrong in a database. */
export async function wrongIn(
  url: string,
  attempts: readonly { id: string }[],
  acknowledged: ReadonlyMap<string, number>,
): Promise<{ lost: number; doubled: number; gaps: number }> {
  const db = openDatabase(url, 2);
  try {
    const rows: { id: string; seq: number; attempt_id: string }[] = await db('entries')
      .whereIn(
        'attempt_id',
        attempts.map((a) => a.id),
      )
      .select('id', 'seq', 'attempt_id');
    const seqs = new Map(rows.map((r) => [r.id, r.seq]));
    const lost = [...acknowledged].filter(([id, seq]) => seqs.get(id) !== seq).length;
    const doubled = rows.length - seqs.size;
    const gaps = attempts.filter(({ id }) => {
      const own = rows.filter((r) => r.attempt_id === id).map((r) => r.seq);
      return Math.max(0, ...own) !== own.length;
    }).length;
    return { lost, doubled, gaps };
  } finally {
    await db.destroy();
  }
}

/** Whether every chain of a database holds. */
export async function chainsHoldIn(url: string): Promise<boolean> {
  const db = openDatabase(url, 2);
  try {
    return (await verifyRecords(db, [])).findings.length === 0;
  } finally {
    await db.destroy();
  }
}
