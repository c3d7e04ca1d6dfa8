import { type ChildProcess, spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { type Database, migrate, openDatabase, syncShippedMethods } from '@clear-mark/server';
import { binFolder, run } from '../database-user.ts';
import { type Cluster, ensureDatabase, removeCluster, startScratchCluster } from '../cluster.ts';
import { loadDemo } from '../load-demo.ts';
import path from 'node:path';
import { ROOT } from '../paths.ts';

export interface OwnServer {
  readonly url: string;
  readonly pid: number;
  readonly db: Database;
  readonly cluster: Cluster;
  readonly databaseUrl: string;
  readonly stop: () => Promise<void>;
}

/**
 * The demo on a cluster that keeps what it acknowledges (fsync and synchronous_commit as they are in real use), with the
 * server as a process of its own.
 */
export async function ownServer(name: string): Promise<OwnServer> {
  const cluster = await startScratchCluster(`${name}-${process.pid}`);
  await ensureDatabase(cluster, name);
  const db = openDatabase(cluster.url(name), 4);
  await migrate(db);
  await syncShippedMethods(db);
  await loadDemo(db, { seed: 7, story: true, now: new Date() });
  const server = await startProcess({
    DATABASE_URL: cluster.appUrl(name),
    DATABASE_OWNER_URL: cluster.url(name),
  });
  await db.raw('vacuum analyze');
  return {
    ...server,
    db,
    cluster,
    databaseUrl: cluster.url(name),
    stop: async () => {
      server.child.kill('SIGTERM');
      await db.destroy();
      await removeCluster(cluster);
    },
  };
}

/** A server process of the demo; resolved with its address once it listens. */
export function startProcess(
  environment: Record<string, string>,
): Promise<{ url: string; pid: number; child: ChildProcess }> {
  const child = spawn(process.execPath, ['--import', 'tsx', 'tools/bench/bench-server.ts'], {
    cwd: ROOT,
    stdio: ['ignore', 'pipe', 'inherit', 'ipc'],
    env: { ...process.env, CLEAR_MARK_MODE: 'demo', CLEAR_MARK_LOG_LEVEL: 'error', ...environment },
  });
  return new Promise((resolve, reject) => {
    child.stdout!.once('data', (line: Buffer) =>
      resolve({ url: line.toString().trim(), pid: child.pid!, child }),
    );
    child.once('exit', (code) => reject(new Error(`the server ended with ${code}`)));
  });
}

/** Seconds of one core that a process has used so far. */
export function cpuSeconds(pid: number): number {
  const fields = readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1]!.split(' ');
  return (Number(fields[11]) + Number(fields[12])) / 100;
}

/** What pgbench makes of inserting the same row, bare: a table like that of entries without triggers and foreign keys. */
export async function pgbenchInsert(
  own: OwnServer,
  attempt: string,
  author: string,
  options: readonly string[],
): Promise<{ perSecond: number; averageMs: number }> {
  await own.db.raw('create table if not exists bare_entries (like entries including all)');
  await own.db.raw('create sequence if not exists bare_seq');
  const row = `insert into bare_entries (id, attempt_id, seq, kind, criterion_id, part, value, author_id, capacity,
    device_id, source, at) values (gen_random_uuid(), '${attempt}', nextval('bare_seq'), 'value',
    'clear-mark/lc-wedge-locator/glasses', '', '{"kind": "check", "passed": true}', '${author}', 'instructor',
    '${author}', 'typed', now());`;
  const script = `/tmp/clear-mark-bench-${process.pid}.sql`;
  const { writeFile, rm } = await import('node:fs/promises');
  await writeFile(script, row.replaceAll('\n', ' '));
  const program = path.join(await binFolder(), 'pgbench');
  const args = ['--no-vacuum', '--file', script, ...options, own.databaseUrl];
  const { stdout } = await run(program, args, { cwd: '/' });
  await rm(script);
  return {
    perSecond: Number(/tps = ([\d.]+)/.exec(stdout)![1]),
    averageMs: Number(/latency average = ([\d.]+) ms/.exec(stdout)![1]),
  };
}
