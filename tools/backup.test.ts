import { copyFile, mkdtemp, readFile, rm, truncate, writeFile } from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { migrate, openDatabase, syncShippedMethods, verifyRecords } from '@clear-mark/server';
import type pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  anchorsInBackups,
  backupName,
  readManifest,
  restoreBackup,
  scheduledBackup,
  toRotateOut,
  writeBackup,
} from './backup.ts';
import { type Cluster, ensureDatabase, onDatabase, removeCluster, startScratchCluster } from './cluster.ts';
import { binFolder, run } from './database-user.ts';

const FIXTURE = fileURLToPath(new URL('./fixtures/schema-0010.dump', import.meta.url));
const NOW = new Date('2026-11-28T10:00:00Z');

let cluster: Cluster;
let folder: string;
let backup: string;
const restore = (name: string, file = backup, over = false) =>
  restoreBackup(cluster.url, name, file, { over, now: NOW });
const databases = (): Promise<string[]> =>
  onDatabase(cluster.url('postgres'), async (c) =>
    (await c.query<{ datname: string }>('select datname from pg_database order by 1')).rows.map(
      (r) => r.datname,
    ),
  );
const countIn = (name: string, table: string): Promise<number> =>
  onDatabase(cluster.url(name), async (c: pg.Client) =>
    Number((await c.query(`select count(*) as n from ${table}`)).rows[0].n),
  );

/** A school as the version before this one left it: its tables, two signed pieces, one open. */
async function oldSchool(name: string): Promise<void> {
  await ensureDatabase(cluster, name);
  const args = ['--exit-on-error', '--no-owner', `--dbname=${cluster.url(name)}`, FIXTURE];
  await run(path.join(await binFolder(), 'pg_restore'), args);
}

beforeAll(async () => {
  cluster = await startScratchCluster(`backup-${process.pid}`, { temporary: true });
  folder = await mkdtemp(path.join(os.tmpdir(), 'clear-mark-backup-test-'));
  backup = path.join(folder, 'school.backup');
  await oldSchool('old');
  await writeBackup(cluster.url('old'), backup);
});
afterAll(async () => {
  await removeCluster(cluster);
  await rm(folder, { recursive: true });
});

describe('a backup', () => {
  it('says of what it is: version, schema, digest, rows and heads of the chains', async () => {
    const manifest = await readManifest(backup);
    expect(manifest).toMatchObject({
      format: 'clear-mark-backup',
      counts: { people: 2, attempts: 3, signed_revisions: 2 },
    });
    expect(manifest.schema.at(-1)).toBe('0010-insight');
    expect(manifest.heads).toMatchObject([{ classSeq: 2, hash: expect.stringMatching(/^[0-9a-f]{64}$/) }]);
  });

  it('is never written over another file', async () => {
    await expect(writeBackup(cluster.url('old'), backup)).rejects.toThrow('is there already');
  });

  it('is of one moment, whatever is entered while it is made', async () => {
    const db = openDatabase(cluster.url('old'), 4);
    const people = async (): Promise<void> => {
      for (let i = 0; i < 40; i++) {
        await db.raw(
          `insert into people (id, login, name, role) values (gen_random_uuid(), 'p' || ?, 'P', 'trainee')`,
          [`${i}-${Math.round(performance.now() * 1000)}`],
        );
      }
    };
    const file = path.join(folder, 'busy.backup');
    const [, manifest] = await Promise.all([people(), writeBackup(cluster.url('old'), file)]);
    await restore('of_one_moment', file);
    expect(await countIn('of_one_moment', 'people')).toBe(manifest.counts['people']);
    await db('people').whereILike('login', 'p%-%').del();
    await db.destroy();
  });
});

describe('a restore drill', () => {
  it('from the schema before this one: brought up to date, every record fits its chain', async () => {
    const found = await restore('restored');
    expect(found).toMatchObject({ revisions: 2, before: null });
    const db = openDatabase(cluster.url('restored'), 2);
    expect(await migrate(db)).toEqual([]);
    await syncShippedMethods(db);
    expect((await verifyRecords(db, [])).findings).toEqual([]);
    // What was read again of a reference lives on as a change with its author.
    expect(await db('reference_changes').select('change', 'value_dbm', 'note')).toEqual([
      { change: 'reread', value_dbm: '-5.1', note: 'kept from an earlier version' },
    ]);
    await db.destroy();
  });

  it('of this schema, over data only when told; what was there lives on under another name', async () => {
    const file = path.join(folder, 'now.backup');
    await writeBackup(cluster.url('restored'), file);
    await onDatabase(cluster.url('restored'), (c) => c.query(`update people set name = 'Changed since'`));
    await expect(restore('restored', file)).rejects.toThrow(
      /data already: 2 people, 1 classes, 3 attempts.*--over/s,
    );
    const { before } = await restore('restored', file, true);
    expect(before).toBe('restored_before_20261128100000');
    const names = (name: string) =>
      onDatabase(cluster.url(name), async (c) =>
        (await c.query('select name from people order by 1')).rows.map((r) => r.name),
      );
    expect(await names('restored')).toEqual(['Ivo Lindqvist', 'Maren Tolle']);
    expect(await names(before!)).toEqual(['Changed since', 'Changed since']);
  });

  it('is refused while somebody works in the database, and nothing is left behind', async () => {
    await onDatabase(cluster.url('restored'), async () => {
      await expect(restore('restored', backup, true)).rejects.toThrow('is running');
    });
    expect((await databases()).filter((d) => d.includes('restoring'))).toEqual([]);
  });

  it.each<[string, (file: string) => Promise<void>, RegExp]>([
    ['cut off', (file) => truncate(file, 50_000), /cut off/],
    ['of another kind', (file) => writeFile(file, 'hello'), /no whole Clear Mark backup/],
    [
      'changed by a hand',
      async (file) => {
        const bytes = await readFile(file);
        bytes[70_000] = bytes[70_000]! ^ 1;
        await writeFile(file, bytes);
      },
      /another digest/,
    ],
  ])('a file that is %s changes nothing', async (_, spoil, words) => {
    const file = path.join(folder, 'spoiled.backup');
    await copyFile(backup, file);
    await spoil(file);
    const before = await databases();
    await expect(restore('restored', file, true)).rejects.toThrow(words);
    expect(await databases()).toEqual(before);
  });

  it('a dump whose records do not fit their chain is not put in place', async () => {
    await oldSchool('bent');
    await onDatabase(cluster.url('bent'), async (c) => {
      await c.query('set session_replication_role = replica');
      await c.query(`update entries set value = '{"kind":"check","passed":false}' where seq = 1`);
    });
    const file = path.join(folder, 'bent.backup');
    await writeBackup(cluster.url('bent'), file);
    await expect(restore('from_bent', file)).rejects.toThrow(/do not fit their chains.*record_changed/);
    expect(await databases()).not.toContain('from_bent');
  });
});

describe('backups by themselves', () => {
  it('are written, copied elsewhere and rotated; their heads are anchors', async () => {
    const kept = path.join(folder, 'kept');
    const share = await mkdtemp(path.join(folder, 'share-'));
    const made = await scheduledBackup(cluster.url('old'), kept, share, NOW);
    expect(path.basename(made.file)).toBe('clear-mark-2026-11-28T100000Z.backup');
    expect((await readManifest(path.join(share, path.basename(made.file)))).counts['classes']).toBe(1);
    expect(await anchorsInBackups(kept)).toMatchObject([
      { classSeq: 2, from: expect.stringContaining('backup of') },
    ]);
  });

  it('keep the newest of 7 days, 5 weeks and 12 months', () => {
    const day = 86_400_000;
    let names: string[] = [];
    for (let i = 0; i < 800; i++) {
      names.push(backupName(new Date(Date.parse('2024-09-01T03:00:00Z') + i * day)));
      const gone = new Set(toRotateOut([...names, 'notes.txt']));
      names = names.filter((n) => !gone.has(n));
    }
    const days = names.map((n) => n.slice(11, 21));
    expect(days.slice(-7)).toEqual(
      [...Array(7)].map((_, i) =>
        new Date(Date.parse('2026-11-09') - (6 - i) * day).toISOString().slice(0, 10),
      ),
    );
    expect(days.length).toBeLessThanOrEqual(24);
    expect(days[0]! < '2026-01-01').toBe(true);
    expect(toRotateOut(['notes.txt', 'clear-mark-old.backup'])).toEqual([]);
  });
});
