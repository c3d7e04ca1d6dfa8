import { randomUUID } from 'node:crypto';
import { type Measured, medianOf } from './measured.ts';
import { ownServer, type OwnServer, pgbenchInsert } from './own-server.ts';
import { RawClient, signIn } from './raw-client.ts';

const CLIENTS = 8;
const SECONDS = 4;
const ROUNDS = 3;

/** An entry as a device sends it, one in a request. */
export const oneEntry = (attempt: string, method: string, me: string, deviceId: string) => ({
  entries: [
    {
      id: randomUUID(),
      attemptId: attempt,
      kind: 'value',
      criterionId: `${method}/glasses`,
      part: '',
      value: { kind: 'check', passed: true },
      voidReason: null,
      note: null,
      authorId: me,
      capacity: 'instructor',
      deviceId,
      source: 'typed',
      at: new Date().toISOString(),
      supersedes: [],
      targetId: null,
    },
  ],
  sentAt: new Date().toISOString(),
});

export const openAttempts = (own: OwnServer): Promise<{ id: string; method: string }[]> =>
  own
    .db('attempts as a')
    .join('method_versions as v', 'v.id', 'a.method_version_id')
    .where('a.state', 'open')
    .select('a.id', 'v.method_id as method')
    .orderBy('a.id');

/** Single entries acknowledged a second by eight devices, against pgbench inserting the same row bare from eight clients. */
export async function benchEntries(): Promise<Measured> {
  const own = await ownServer('bench_entries');
  try {
    const { cookie, me } = await signIn(own.url, 'lead');
    const open = await openAttempts(own);
    const clients = await Promise.all(Array.from({ length: CLIENTS }, () => RawClient.open(own.url, cookie)));
    const pairs: { ours: number; bare: number }[] = [];
    for (let round = 0; round < ROUNDS; round++) {
      const options = ['-c', String(CLIENTS), '-j', '2', '-T', String(SECONDS)];
      const { perSecond: bare } = await pgbenchInsert(own, open[0]!.id, me, options);
      let taken = 0;
      const until = Date.now() + SECONDS * 1000;
      await Promise.all(
        clients.map(async (client, i) => {
          // Other attempts each round: a full one takes no more.
          const attempt = open[(round * CLIENTS + i) % open.length]!;
          const device = randomUUID();
          while (Date.now() < until) {
            const reply = await client.post('/entries', oneEntry(attempt.id, attempt.method, me, device));
            if (!reply.body.includes('"accepted"')) throw new Error(`${reply.status} ${reply.body}`);
            taken += 1;
          }
        }),
      );
      pairs.push({ ours: taken / SECONDS, bare });
    }
    clients.forEach((c) => c.close());
    const ours = medianOf(pairs.map((p) => p.ours));
    const bare = medianOf(pairs.map((p) => p.bare));
    return {
      name: `bare pgbench inserts a second / acknowledged entries, ${CLIENTS} clients`,
      ratio: bare / ours,
      most: 2.5,
      unit: 'times',
      detail: `${ours.toFixed(0)} entries a second acknowledged from the disk, ${bare.toFixed(0)} by pgbench: ${(ours / bare).toFixed(2)} of it (goal 0.40), median of ${ROUNDS}`,
    };
  } finally {
    await own.stop();
  }
}
