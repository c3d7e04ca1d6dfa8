import { spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { mkdir, mkdtemp, readdir, readFile, rename, rm, writeFile } from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Cluster, ensureDatabase, newPassword, onDatabase, startCluster } from './cluster.ts';
import { settleEarlierData } from './data-folder.ts';
import { giveToDatabaseUser } from './database-user.ts';
import { usualDataFolder } from './paths.ts';
import { processesIn } from './process-list.ts';

/** Under the system's folder for such things, where the database's user can go. */
async function emptyHome(): Promise<string> {
  const home = await mkdtemp(path.join(os.tmpdir(), 'clear-mark-cluster-'));
  await giveToDatabaseUser(home);
  return home;
}

let home: string;
let cluster: Cluster;
const onIt = <T>(work: (client: pg.Client) => Promise<T>): Promise<T> =>
  onDatabase(cluster.url('kept'), work);
const count = (): Promise<number> =>
  onIt(async (c) => Number((await c.query('select count(*) as n from scores')).rows[0].n));
const start = async (): Promise<void> => {
  cluster = await startCluster({ home });
};

beforeAll(async () => {
  home = await emptyHome();
  await start();
  await ensureDatabase(cluster, 'kept');
  await onIt((c) => c.query('create table scores as select generate_series(1, 100) as n'));
});
afterAll(async () => {
  await cluster.stop();
  await rm(home, { recursive: true, force: true });
});

describe('data that are there', () => {
  it('are never made anew when the password is missing; a new one opens them', async () => {
    await cluster.stop();
    await rename(path.join(home, 'password'), path.join(home, 'password.away'));
    await expect(startCluster({ home })).rejects.toThrow(/password.*is missing.*new-password/s);
    expect(existsSync(path.join(home, 'data/PG_VERSION'))).toBe(true);
    await newPassword(home);
    await start();
    expect(await count()).toBe(100);
    await rm(path.join(home, 'password.away'));
  });

  it('are never made anew when PG_VERSION or the whole folder is missing', async () => {
    await cluster.stop();
    const mark = path.join(home, 'data/PG_VERSION');
    const version = await readFile(mark);
    await rm(mark);
    await expect(startCluster({ home })).rejects.toThrow(/not empty and is no whole database.*PG_VERSION/s);
    await writeFile(mark, version);
    await giveToDatabaseUser(mark);
    await rename(path.join(home, 'data'), path.join(home, '..', path.basename(home) + '-away'));
    await expect(startCluster({ home })).rejects.toThrow(/no database but holds .*password/);
    await rename(path.join(home, '..', path.basename(home) + '-away'), path.join(home, 'data'));
    await start();
    expect(await count()).toBe(100);
  });

  it('of something else are left alone', async () => {
    const other = await emptyHome();
    await writeFile(path.join(other, 'thesis.txt'), 'mine');
    await expect(startCluster({ home: other })).rejects.toThrow('holds thesis.txt');
    expect(await readdir(other)).toEqual(['thesis.txt']);
    await rm(other, { recursive: true });
  });

  it('that a killed set-up left unfinished are begun again, since nothing was ever in them', async () => {
    const half = await emptyHome();
    await mkdir(path.join(half, 'unfinished-1'));
    await writeFile(path.join(half, 'unfinished-1/x'), '');
    await mkdir(path.join(half, 'data'));
    await giveToDatabaseUser(path.join(half, 'data'));
    const made = await startCluster({ home: half, temporary: true });
    expect(existsSync(path.join(half, 'unfinished-1'))).toBe(false);
    await made.stop();
    await rm(half, { recursive: true });
  });
});

describe('one folder, one database', () => {
  it('a second start from where the first cannot be seen is refused in words, and pid files are left alone', async () => {
    await cluster.stop();
    // As from another container on the same volume: a holder that our list of processes does not show as a database.
    const holder = spawn('flock', [path.join(home, 'lock'), 'sleep', '60'], {
      stdio: 'ignore',
      detached: true,
    });
    await writeFile(path.join(home, 'lock.json'), JSON.stringify({ host: 'bench-server', since: 'noon' }));
    const pidFile = path.join(home, 'data/postmaster.pid');
    await writeFile(pidFile, '999999\n');
    await new Promise((done) => setTimeout(done, 300));
    await expect(startCluster({ home })).rejects.toThrow(
      /open: on bench-server, since noon.*Nothing was changed/s,
    );
    expect(await readFile(pidFile, 'utf8')).toBe('999999\n');
    process.kill(-holder.pid!, 'SIGKILL');
    await new Promise((done) => setTimeout(done, 300));
    // A stale pid file is no matter of ours: PostgreSQL sees by itself that nobody is behind it.
    await start();
    expect(await count()).toBe(100);
  });

  it('is held by the database itself as long as one of its processes lives, and no longer', async () => {
    const refused = await startCluster({ home }).then((second) => second.port);
    expect(refused).toBe(cluster.port);
    const code = await new Promise<number | null>((resolve) =>
      spawn('flock', ['--nonblock', '-E', '75', path.join(home, 'lock'), 'true']).once('exit', resolve),
    );
    expect(code).toBe(75);
  });
});

describe('after a kill', () => {
  it('of the database while a query runs, the first start works and keeps what was committed', async () => {
    const client = new pg.Client({ connectionString: cluster.url('kept') });
    client.on('error', () => undefined);
    await client.connect();
    // A query that looks at nothing outside: it does not notice by itself that its postmaster is gone.
    const busy = client
      .query(`do $$ declare n bigint := 0; begin loop n := n + 1; exit when n > 4000000000; end loop; end $$`)
      .catch(() => undefined);
    await new Promise((done) => setTimeout(done, 500));
    const postmaster = Number(
      (await readFile(path.join(home, 'data/postmaster.pid'), 'utf8')).split('\n')[0],
    );
    process.kill(postmaster, 'SIGKILL');
    const from = Date.now();
    await start();
    expect(await count()).toBe(100);
    expect(Date.now() - from).toBeLessThan(10_000);
    expect(processesIn(cluster.dataDir).length).toBeGreaterThan(3);
    await busy;
    await client.end().catch(() => undefined);
  });
});

describe('where real data lie', () => {
  it('is outside every checkout: the XDG folder of the user, under /var/lib as root', () => {
    expect(usualDataFolder({}, true)).toBe('/var/lib/clear-mark');
    expect(usualDataFolder({ XDG_DATA_HOME: '/srv/data' }, false)).toBe('/srv/data/clear-mark');
    expect(usualDataFolder({ XDG_DATA_HOME: 'relative' }, false)).toMatch(/\.local\/share\/clear-mark$/);
  });
  it('nothing is moved that is not there', async () => {
    await expect(settleEarlierData(home, true)).rejects.toThrow('no data of an earlier version');
  });
});
