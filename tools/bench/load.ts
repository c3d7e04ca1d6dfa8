import { randomUUID } from 'node:crypto';
import { connect } from 'node:net';
import { oneEntry, openAttempts } from './entries.ts';
import type { Measured } from './measured.ts';
import { cpuSeconds, ownServer, pgbenchInsert } from './own-server.ts';
import { RawClient, signIn } from './raw-client.ts';

const DEVICES = 40;
const EVERY_MS = 500;
const SECONDS = 15;

/** A device that follows the class live and hears of every entry; counts them, and the milliseconds until they came. */
async function follow(
  url: string,
  cookie: string,
  classId: string,
  heard: (id: string) => void,
): Promise<() => void> {
  const { hostname, port, host } = new URL(url);
  const socket = connect({ host: hostname, port: Number(port) });
  socket.setEncoding('latin1');
  let text = '';
  let ready = (): void => undefined;
  const hello = new Promise<void>((resolve) => (ready = resolve));
  socket.on('data', (part) => {
    text += String(part);
    if (text.includes('hello')) ready();
    for (const [, id] of text.matchAll(/\{"id":"([0-9a-f-]{36})",(?="kind"|"seq")/g)) heard(id!);
    text = text.slice(-60);
  });
  socket.write(`GET /api/classes/${classId}/events HTTP/1.1\r\nHost: ${host}\r\nCookie: ${cookie}\r\n\r\n`);
  await hello;
  return () => socket.destroy();
}

/**
 * Forty instructors who score twice a second and forty devices that follow live: how long until an entry is acknowledged
 * from the disk, against the average of pgbench inserting the same rows at the same rate.
 */
export async function benchLoad(): Promise<Measured> {
  const own = await ownServer('bench_load');
  try {
    const { cookie, me } = await signIn(own.url, 'lead');
    const open = await openAttempts(own);
    const [{ class_id: classId }] = await own.db('attempts').where({ id: open[0]!.id }).select('class_id');
    const ofClass = await own.db('attempts').where({ class_id: classId, state: 'open' }).pluck('id');
    const attempts = open.filter((a) => ofClass.includes(a.id));
    const rate = String((DEVICES * 1000) / EVERY_MS);
    const bare = await pgbenchInsert(own, open[0]!.id, me, ['-c', '8', '-j', '1', '-R', rate, '-T', '6']);
    const sentAt = new Map<string, number>();
    const seen: number[] = [];
    let heard = 0;
    const leave = await Promise.all(
      Array.from({ length: DEVICES }, () =>
        follow(own.url, cookie, classId, (id) => {
          heard += 1;
          const at = sentAt.get(id);
          if (at !== undefined) seen.push(performance.now() - at);
        }),
      ),
    );
    const clients = await Promise.all(Array.from({ length: DEVICES }, () => RawClient.open(own.url, cookie)));
    const waits: number[] = [];
    const cpu = cpuSeconds(own.pid);
    const began = performance.now();
    await Promise.all(
      clients.map(async (client, i) => {
        const attempt = attempts[i % attempts.length]!;
        const device = randomUUID();
        await new Promise((done) => setTimeout(done, (i * EVERY_MS) / DEVICES));
        for (let n = 0; n < (SECONDS * 1000) / EVERY_MS; n++) {
          const body = oneEntry(attempt.id, attempt.method, me, device);
          const from = performance.now();
          sentAt.set(body.entries[0]!.id, from);
          const reply = await client.post('/entries', body);
          if (!reply.body.includes('"accepted"')) throw new Error(`${reply.status} ${reply.body}`);
          const took = performance.now() - from;
          waits.push(took);
          await new Promise((done) => setTimeout(done, Math.max(0, EVERY_MS - took)));
        }
      }),
    );
    const seconds = (performance.now() - began) / 1000;
    const used = ((cpuSeconds(own.pid) - cpu) / seconds) * 100;
    await new Promise((done) => setTimeout(done, 1000));
    leave.forEach((end) => end());
    clients.forEach((c) => c.close());
    const p95 = share(waits, 0.95);
    return {
      name: `p95 of an acknowledged entry, ${DEVICES} score, ${DEVICES} follow / pgbench's average`,
      ratio: p95 / bare.averageMs,
      most: 15,
      unit: 'times',
      detail: `p95 ${p95.toFixed(1)} ms (goal under 60), median ${share(waits, 0.5).toFixed(1)} ms, pgbench ${bare.averageMs.toFixed(2)} ms at ${rate} a second; server ${used.toFixed(0)} % of one core (goal under 40); ${waits.length} entries, ${heard} of ${waits.length * DEVICES} heard by followers, p95 ${share(seen, 0.95).toFixed(0)} ms after they were sent`,
    };
  } finally {
    await own.stop();
  }
}

const share = (values: readonly number[], p: number): number =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * p))] ?? Number.NaN;
