import { copyFile } from 'node:fs/promises';
import path from 'node:path';
import { AppError, type Database, openDatabase, readerOf } from '@clear-mark/server';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type Cluster, removeCluster, startCluster, startScratchCluster } from './cluster.ts';
import { scratchHome } from './data-folder.ts';
import { asDatabaseUser, binFolder, giveToDatabaseUser } from './database-user.ts';

/** A leader and a standby that streams from it, both real. */
let leader: Cluster;
let standby: Cluster;
let leaderDb: Database;
let standbyDb: Database;
let asStandbyOwner: Database;
const log = { warn: () => undefined };
/** On a busy machine a standby may lag by seconds; a test of what is read waits for it. */
const PATIENT_MS = 30_000;

beforeAll(async () => {
  leader = await startScratchCluster(`test-leader-${process.pid}`);
  const home = await scratchHome(`test-standby-${process.pid}`);
  const url = leader.url('postgres').replace(/\/postgres$/, '');
  const copy = ['-d', url, '-D', path.join(home, 'data'), '-R', '-X', 'stream', '-c', 'fast'];
  await asDatabaseUser(path.join(await binFolder(), 'pg_basebackup'), copy);
  for (const file of ['password', 'app.password']) {
    await copyFile(path.join(leader.home, file), path.join(home, file));
    await giveToDatabaseUser(path.join(home, file));
  }
  standby = await startCluster({ home });
  leaderDb = openDatabase(leader.url('postgres'), 2);
  standbyDb = openDatabase(standby.appUrl('postgres'), 2);
  asStandbyOwner = openDatabase(standby.url('postgres'), 1);
  await leaderDb.raw('create table notes (n int)');
  await leaderDb.raw('grant select on notes to clear_mark_app');
}, 60_000);
afterAll(async () => {
  await Promise.all([leaderDb, standbyDb, asStandbyOwner].map((db) => db.destroy()));
  await removeCluster(standby);
  await removeCluster(leader);
});

const newest = async (db: Database): Promise<number> =>
  Number((await db('notes').max('n as n').first())!['n']);

it('a standby answers, and always with what was committed before it was asked', async () => {
  const reader = readerOf(leaderDb, standbyDb, log, PATIENT_MS);
  for (let n = 1; n <= 200; n++) {
    await leaderDb('notes').insert({ n });
    expect(await reader.read(newest)).toBe(n);
  }
  expect(reader.answered()).toEqual({ standby: 200, leader: 0 });
});

it('one that lags is passed over, and asked again when it has caught up', async () => {
  const reader = readerOf(leaderDb, standbyDb, log);
  await asStandbyOwner.raw('select pg_wal_replay_pause()');
  await leaderDb('notes').insert({ n: 1001 });
  expect(await reader.read(newest)).toBe(1001);
  expect(await newest(standbyDb)).toBeLessThan(1001);
  expect(reader.answered()).toEqual({ standby: 0, leader: 1 });
  await asStandbyOwner.raw('select pg_wal_replay_resume()');
  const patient = readerOf(leaderDb, standbyDb, log, PATIENT_MS);
  expect(await patient.read(newest)).toBe(1001);
  expect(patient.answered()).toEqual({ standby: 1, leader: 0 });
});

it('a read that the standby breaks off is done by the leader; the next ones leave it alone for a while', async () => {
  const reader = readerOf(leaderDb, standbyDb, log, PATIENT_MS);
  const broken = async (db: Database): Promise<number> => {
    if (db === standbyDb) await db.raw('select pg_terminate_backend(pg_backend_pid())');
    return newest(db);
  };
  expect(await reader.read(broken)).toBe(1001);
  expect(await reader.read(newest)).toBe(1001);
  expect(reader.answered()).toEqual({ standby: 0, leader: 2 });
});

it('what is wrong with the question itself is told, and not asked twice', async () => {
  const reader = readerOf(leaderDb, standbyDb, log);
  let asked = 0;
  const refused = (): Promise<never> => {
    asked += 1;
    throw new AppError('not_found.class');
  };
  await expect(reader.read(refused)).rejects.toThrow(AppError);
  await expect(reader.read((db) => db.raw('select * from nowhere'))).rejects.toMatchObject({ code: '42P01' });
  expect(asked).toBe(1);
});

it('without one, with one that leads itself, and with one that is gone, the leader answers', async () => {
  expect(await readerOf(leaderDb, null, log).read(newest)).toBe(1001);
  const itself = readerOf(leaderDb, leaderDb, log);
  expect(await itself.read(newest)).toBe(1001);
  expect(itself.answered()).toEqual({ standby: 0, leader: 1 });
  await standby.stop();
  const gone = readerOf(leaderDb, standbyDb, log);
  expect(await gone.read(newest)).toBe(1001);
  expect(gone.answered()).toEqual({ standby: 0, leader: 1 });
});
