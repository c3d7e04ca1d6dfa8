import { readFileSync } from 'node:fs';
import path from 'node:path';
import { randomUUID } from 'node:crypto';
import { migrate, openDatabase, syncShippedMethods } from '@clear-mark/server';
import {
  type Cluster,
  ensureDatabase,
  removeCluster,
  startCluster,
  startScratchCluster,
} from '../cluster.ts';
import { loadDemoInOwnProcess } from '../load-demo-process.ts';
import { chainsHoldIn, DEVICES, sendOnce, startPieces, wrongIn } from './devices.ts';
import { oneEntry } from './entries.ts';
import type { Measured } from './measured.ts';
import { startProcess } from './own-server.ts';
import { signIn } from './raw-client.ts';

/** What is killed: the server, its database, both, or one of two servers on one database, which is not started again. */
export type Killed = 'server' | 'database' | 'both' | 'one_of_two';
export const KILLS: readonly Killed[] = ['server', 'database', 'both', 'one_of_two'];

export interface FaultRun {
  readonly killed: Killed;
  /** Entries that were acknowledged and are not there, are there twice, or leave a gap before them. */
  readonly lost: number;
  readonly doubled: number;
  readonly gaps: number;
  readonly acknowledged: number;
  /** Milliseconds from the kill until an entry was acknowledged again. */
  readonly backMs: number;
}

const DATABASE = 'faults';

interface School {
  cluster: Cluster;
  server: Awaited<ReturnType<typeof startProcess>>;
  readonly home: string;
}

/** The demo on a cluster that keeps what it acknowledges, with its server as a process of its own. */
export async function faultSchool(): Promise<School & { end: () => Promise<void> }> {
  const cluster = await startScratchCluster(`faults-${process.pid}`);
  await ensureDatabase(cluster, DATABASE);
  const db = openDatabase(cluster.url(DATABASE), 2);
  await migrate(db);
  await syncShippedMethods(db);
  await db.destroy();
  await loadDemoInOwnProcess(cluster.url(DATABASE), { seed: 7, story: true, now: new Date(), faces: false });
  const school = { cluster, home: cluster.home, server: await startServerOf(cluster) };
  const end = async (): Promise<void> => {
    school.server.child.kill('SIGKILL');
    await removeCluster(school.cluster);
  };
  return Object.assign(school, { end });
}

const startServerOf = (cluster: Cluster) =>
  startProcess({ DATABASE_URL: cluster.appUrl(DATABASE), DATABASE_OWNER_URL: cluster.url(DATABASE) });

const postmasterOf = (cluster: Cluster): number =>
  Number(readFileSync(path.join(cluster.dataDir, 'postmaster.pid'), 'utf8').split('\n')[0]);

/**
 * One run: devices enter one entry after the other, each kept until it is acknowledged and sent again until then; something
 * is killed with SIGKILL in the middle, and started again. Whatever was acknowledged must be there once and without a gap.
 */
export async function faultRun(school: School, killed: Killed): Promise<FaultRun> {
  const { cookie, me } = await signIn(school.server.url, 'lead');
  const db = openDatabase(school.cluster.url(DATABASE), 2);
  const attempts = await startPieces(db, school.server.url, cookie);
  await db.destroy();
  const beside = killed === 'one_of_two' ? await startServerOf(school.cluster) : null;
  const acknowledged = new Map<string, number>();
  let session = cookie;
  let stop = false;
  let down = false;
  let backAt = 0;
  const device = async (i: number): Promise<void> => {
    const deviceId = randomUUID();
    // Half of the devices begin at the other server; who gets no answer asks the next time there.
    let other = i % 2 === 1;
    while (!stop) {
      const attempt = attempts[i % attempts.length]!;
      const body = oneEntry(attempt.id, attempt.method, me, deviceId);
      // The same entry until it is acknowledged, as the queue of a device does.
      for (;;) {
        const sentAt = new Date().toISOString();
        const receipt = await sendOnce(other && beside ? beside.url : school.server.url, session, {
          ...body,
          sentAt,
        });
        if (receipt !== null) {
          acknowledged.set(body.entries[0]!.id, receipt);
          if (down && backAt === 0) backAt = performance.now();
          break;
        }
        if (stop) return;
        other = !other;
        await new Promise((done) => setTimeout(done, 30));
      }
    }
  };
  const devices = Array.from({ length: DEVICES }, (_, i) => device(i));
  await new Promise((done) => setTimeout(done, 300 + Math.random() * 500));
  const at = performance.now();
  if (killed !== 'database') school.server.child.kill('SIGKILL');
  if (killed === 'database' || killed === 'both') process.kill(postmasterOf(school.cluster), 'SIGKILL');
  down = true;
  if (killed === 'database' || killed === 'both') {
    school.cluster = await startCluster({ home: school.home, port: school.cluster.port });
  }
  if (beside) school.server = beside;
  else if (killed !== 'database') school.server = await startServerOf(school.cluster);
  // Sessions are in the database: the one from before goes on.
  session = cookie;
  while (backAt === 0 && performance.now() - at < 30_000) await new Promise((done) => setTimeout(done, 20));
  await new Promise((done) => setTimeout(done, 200));
  stop = true;
  await Promise.all(devices);
  const found = await wrongIn(school.cluster.url(DATABASE), attempts, acknowledged);
  return { killed, ...found, acknowledged: acknowledged.size, backMs: backAt - at };
}

/** Whether every chain holds after all runs. */
export const chainsHold = (school: School): Promise<boolean> => chainsHoldIn(school.cluster.url(DATABASE));

const RUNS = Number(process.env['CLEAR_MARK_FAULT_RUNS'] ?? '52');

/** SIGKILL of server, database and both under load: entries that were acknowledged and are wrong, plus one, against one. */
export async function benchFaults(): Promise<Measured> {
  const school = await faultSchool();
  try {
    const runs: FaultRun[] = [];
    for (let i = 0; i < RUNS; i++) runs.push(await faultRun(school, KILLS[i % KILLS.length]!));
    const sum = (of: (r: FaultRun) => number): number => runs.reduce((total, r) => total + of(r), 0);
    const wrong = sum((r) => r.lost + r.doubled + r.gaps);
    const whole = await chainsHold(school);
    const slowest = Math.max(...runs.map((r) => r.backMs));
    return {
      name: `acknowledged entries that are wrong after ${RUNS} kills, plus one / one`,
      ratio: whole && slowest < 10_000 ? wrong + 1 : Infinity,
      most: 1,
      unit: 'times',
      detail: `${sum((r) => r.acknowledged)} acknowledged, ${sum((r) => r.lost)} lost, ${sum((r) => r.doubled)} doubled, ${sum((r) => r.gaps)} attempts with a gap; chains ${whole ? 'hold' : 'BROKEN'}; taken again after ${(slowest / 1000).toFixed(1)} s at most`,
    };
  } finally {
    await school.end();
  }
}
