import { createHash } from 'node:crypto';
import { createReadStream, existsSync } from 'node:fs';
import {
  chmod,
  copyFile,
  mkdir,
  mkdtemp,
  readdir,
  readFile,
  rename,
  rm,
  stat,
  writeFile,
} from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import { pipeline } from 'node:stream/promises';
import { type Anchor, type Database, migrate, openDatabase, verifyRecords } from '@clear-mark/server';
import pg from 'pg';
import { z } from 'zod';
import { binFolder, run } from './database-user.ts';
import { ROOT } from './paths.ts';

/** What is in a backup beside the dump: enough to tell before anything is touched whether it is whole, and of what. */
const Manifest = z.object({
  format: z.literal('clear-mark-backup'),
  formatVersion: z.literal(1),
  madeAt: z.iso.datetime(),
  application: z.string(),
  postgres: z.string(),
  /** Migrations that the database had seen, in order. */
  schema: z.array(z.string()),
  dump: z.object({ bytes: z.number().int(), sha256: z.string() }),
  /** The head of every class's chain in the same snapshot as the dump. */
  heads: z.array(z.object({ classId: z.uuid(), classSeq: z.number().int(), hash: z.string().nullable() })),
  counts: z.record(z.string(), z.number()),
});
export type Manifest = z.infer<typeof Manifest>;

const MANIFEST = 'manifest.json';
const DUMP = 'database.dump';
const COUNTED = ['people', 'classes', 'attempts', 'entries', 'signed_revisions', 'pictures'] as const;

/**
 * Writes a backup of a running database: one file, a tar of a manifest and a dump in PostgreSQL's custom format, both of the
 * same snapshot. Written beside and renamed, so that a half one never lies under the name. Gives its manifest.
 */
export async function writeBackup(ownerUrl: string, file: string): Promise<Manifest> {
  const bin = await binFolder();
  const target = path.resolve(file);
  if (existsSync(target))
    throw new Error(`${target} is there already. Nothing was written; name another file.`);
  const folder = await mkdtemp(path.join(path.dirname(target), '.clear-mark-backup-'));
  const client = new pg.Client({ connectionString: ownerUrl });
  await client.connect();
  try {
    await client.query('begin transaction isolation level repeatable read read only');
    const snapshot = String((await client.query('select pg_export_snapshot() as id')).rows[0].id);
    const dump = path.join(folder, DUMP);
    const args = [
      '--format=custom',
      `--snapshot=${snapshot}`,
      '--no-owner',
      '--no-privileges',
      `--file=${dump}`,
    ];
    await withoutPassword('pg_dump', bin, ownerUrl, args);
    const manifest = await manifestOf(client, dump);
    await writeFile(path.join(folder, MANIFEST), JSON.stringify(manifest, null, 2));
    const part = path.join(folder, 'backup.tar');
    await run('tar', ['-cf', part, '-C', folder, MANIFEST, DUMP]);
    await run('sync', [part]);
    await chmod(part, 0o600);
    await rename(part, target);
    return manifest;
  } finally {
    await client.end();
    await rm(folder, { recursive: true, force: true });
  }
}

/** Runs a program of PostgreSQL on a database; the password goes by the environment, not where every process sees it. */
async function withoutPassword(
  program: 'pg_dump' | 'pg_restore',
  bin: string,
  url: string,
  args: readonly string[],
): Promise<void> {
  const bare = new URL(url);
  const PGPASSWORD = decodeURIComponent(bare.password);
  bare.password = '';
  const options = { maxBuffer: 16 * 1024 * 1024, env: { ...process.env, PGPASSWORD } };
  await run(path.join(bin, program), [`--dbname=${bare.href}`, ...args], options);
}

async function manifestOf(client: pg.Client, dump: string): Promise<Manifest> {
  const one = async <T>(sql: string): Promise<T[]> => (await client.query(sql)).rows as T[];
  const counts: Record<string, number> = {};
  for (const table of COUNTED) {
    counts[table] = Number((await one<{ n: string }>(`select count(*) as n from ${table}`))[0]!.n);
  }
  const { version } = JSON.parse(await readFile(path.join(ROOT, 'package.json'), 'utf8')) as {
    version: string;
  };
  return {
    format: 'clear-mark-backup',
    formatVersion: 1,
    madeAt: new Date().toISOString(),
    application: version,
    postgres: (await one<{ v: string }>(`select current_setting('server_version') as v`))[0]!.v,
    schema: (await one<{ name: string }>('select name from schema_migrations order by name')).map(
      (r) => r.name,
    ),
    dump: { bytes: (await stat(dump)).size, sha256: await sha256Of(dump) },
    heads: await one(
      `select class_id as "classId", next_seq - 1 as "classSeq", last_hash as hash from class_chains order by class_id`,
    ),
    counts,
  };
}

export async function sha256Of(file: string): Promise<string> {
  const hash = createHash('sha256');
  await pipeline(createReadStream(file), hash);
  return hash.digest('hex');
}

/** The manifest of a backup, read without the dump. Throws an Error that says what is wrong with the file. */
export async function readManifest(file: string): Promise<Manifest> {
  if (!existsSync(file)) throw new Error(`There is no file ${file}.`);
  const no = (why: string): Error =>
    new Error(`${file} is no whole Clear Mark backup: ${why}. Nothing was changed.`);
  let text: string;
  try {
    ({ stdout: text } = await run('tar', ['-xOf', file, MANIFEST], { maxBuffer: 64 * 1024 * 1024 }));
  } catch {
    throw no('it is cut off, or of another kind');
  }
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    throw no('its manifest cannot be read');
  }
  const manifest = Manifest.safeParse(json);
  if (!manifest.success) throw no(`its manifest has a wrong ${manifest.error.issues[0]!.path.join('.')}`);
  return manifest.data;
}

export interface Restored {
  readonly manifest: Manifest;
  readonly revisions: number;
  /** Under what name the database that was there lives on; null where there was none. */
  readonly before: string | null;
}

/**
 * Puts a backup into a cluster as its database `name`. Everything is checked before anything is touched: the file, its
 * digests, whether this version knows its schema, whether there are data that it would take the place of. It is loaded
 * into a database beside, brought up to date, and its chains are verified against its own heads; only then do names
 * change. Data that were there are refused unless `over`, and kept under another name even then.
 */
export async function restoreBackup(
  urlOf: (database: string) => string,
  name: string,
  file: string,
  options: { readonly over: boolean; readonly now: Date },
): Promise<Restored> {
  const manifest = await readManifest(file);
  const there = await practiceIn(urlOf, name);
  if (there.data && !options.over) {
    throw new Error(
      `There are data already: ${there.words}. Nothing was changed. Restore into another folder with --data DIR, or over them with --over; they are then kept under another name.`,
    );
  }
  const folder = await mkdtemp(path.join(os.tmpdir(), 'clear-mark-restore-'));
  const stamp = options.now.toISOString().replaceAll(/\D/g, '').slice(0, 14);
  const beside = `${name}_restoring_${stamp}`;
  const admin = new pg.Client({ connectionString: urlOf('postgres') });
  await admin.connect();
  try {
    await run('tar', ['-xf', path.resolve(file), '-C', folder, DUMP]).catch(() => {
      throw new Error(`${file} is cut off: the dump in it cannot be read. Nothing was changed.`);
    });
    const dump = path.join(folder, DUMP);
    if ((await stat(dump)).size !== manifest.dump.bytes || (await sha256Of(dump)) !== manifest.dump.sha256) {
      throw new Error(`${file} was changed or cut off: its dump has another digest. Nothing was changed.`);
    }
    await admin.query(`create database "${beside}"`);
    try {
      const bin = await binFolder();
      const args = ['--exit-on-error', '--no-owner', '--no-privileges', dump];
      await withoutPassword('pg_restore', bin, urlOf(beside), args);
      const revisions = await bringUpAndVerify(urlOf(beside), manifest, file);
      const before = await takeName(admin, name, beside, there.exists ? `${name}_before_${stamp}` : null);
      return { manifest, revisions, before };
    } catch (error) {
      await admin.query(`drop database if exists "${beside}" with (force)`);
      throw error;
    }
  } finally {
    await admin.end();
    await rm(folder, { recursive: true, force: true });
  }
}

async function bringUpAndVerify(url: string, manifest: Manifest, file: string): Promise<number> {
  const db: Database = openDatabase(url, 2);
  try {
    await migrate(db);
    for (const [table, wanted] of Object.entries(manifest.counts)) {
      const [row] = await db(table).count<{ n: string }[]>('* as n');
      const n = Number(row?.n);
      if (n !== wanted) throw new Error(`${file}: ${table} has ${n} rows and should have ${wanted}.`);
    }
    const anchors = anchorsOf(manifest);
    const { revisions, findings } = await verifyRecords(db, anchors);
    // Derived rows are no record: what differs there is made again after the start.
    const broken = findings.filter((f) => f.kind !== 'derived_differs');
    if (broken.length > 0) {
      throw new Error(
        `The records in ${file} do not fit their chains: ${broken.length} findings, the first: ${broken[0]!.kind} at record ${broken[0]!.classSeq ?? '-'}. Nothing was changed.`,
      );
    }
    return revisions;
  } finally {
    await db.destroy();
  }
}

export const anchorsOf = (manifest: Manifest): Anchor[] =>
  manifest.heads.flatMap(({ classId, classSeq, hash }) =>
    hash === null ? [] : [{ classId, classSeq, hash, from: `backup of ${manifest.madeAt.slice(0, 10)}` }],
  );

/** Renames two databases in one transaction's worth of time; nobody may be connected to either. */
async function takeName(
  admin: pg.Client,
  name: string,
  beside: string,
  before: string | null,
): Promise<string | null> {
  const { rows } = await admin.query(`select count(*)::int as n from pg_stat_activity where datname = $1`, [
    name,
  ]);
  if (rows[0].n > 0) throw new Error('The application is running. Stop it first: ./clear-mark stop');
  if (before !== null) await admin.query(`alter database "${name}" rename to "${before}"`);
  await admin.query(`alter database "${beside}" rename to "${name}"`);
  return before;
}

async function practiceIn(
  urlOf: (database: string) => string,
  name: string,
): Promise<{ exists: boolean; data: boolean; words: string }> {
  const admin = new pg.Client({ connectionString: urlOf('postgres') });
  await admin.connect();
  try {
    const { rowCount } = await admin.query('select 1 from pg_database where datname = $1', [name]);
    if (rowCount === 0) return { exists: false, data: false, words: '' };
  } finally {
    await admin.end();
  }
  const client = new pg.Client({ connectionString: urlOf(name) });
  await client.connect();
  try {
    const { rows } = await client.query(`select to_regclass('people') is not null as there`);
    if (!rows[0].there) return { exists: true, data: false, words: '' };
    const found = await client.query(
      `select (select count(*)::int from people) as people, (select count(*)::int from classes) as classes,
              (select count(*)::int from attempts) as attempts`,
    );
    const { people, classes, attempts } = found.rows[0] as Record<string, number>;
    return {
      exists: true,
      data: people! + classes! > 0,
      words: `${people} people, ${classes} classes, ${attempts} attempts`,
    };
  } finally {
    await client.end();
  }
}

const NAME = /^clear-mark-(\d{4}-\d{2}-\d{2})T(\d{6})Z\.backup$/;
export const backupName = (at: Date): string =>
  `clear-mark-${at.toISOString().slice(0, 19).replaceAll(':', '')}Z.backup`;

/** Kept of the backups that were made by themselves: the newest of each of the last days, weeks and months. */
const DAYS = 7;
const WEEKS = 5;
const MONTHS = 12;

/** Which of these files go: all but the newest of the last 7 days, 5 weeks and 12 months that have one. */
export function toRotateOut(names: readonly string[]): string[] {
  const newestFirst = names
    .filter((n) => NAME.test(n))
    .sort()
    .reverse();
  const kept = new Set<string>();
  const keep = (most: number, period: (day: string) => string): void => {
    const seen = new Set<string>();
    for (const name of newestFirst) {
      const of = period(NAME.exec(name)![1]!);
      if (seen.has(of) || seen.size >= most) continue;
      seen.add(of);
      kept.add(name);
    }
  };
  keep(DAYS, (day) => day);
  keep(WEEKS, (day) => String(Math.floor(Date.parse(day) / (7 * 86_400_000))));
  keep(MONTHS, (day) => day.slice(0, 7));
  return newestFirst.filter((name) => !kept.has(name));
}

/** Heads of the chains that the kept backups hold: anchors that no change of the database reaches. */
export async function anchorsInBackups(folder: string): Promise<Anchor[]> {
  const names = (await readdir(folder).catch(() => [])).filter((n) => NAME.test(n)).sort();
  const anchors: Anchor[] = [];
  for (const name of names) {
    const manifest = await readManifest(path.join(folder, name)).catch(() => null);
    if (manifest) anchors.push(...anchorsOf(manifest));
  }
  return anchors;
}

/** A backup into the folder of scheduled ones, a copy elsewhere where one is asked for, and the rotation. */
export async function scheduledBackup(
  ownerUrl: string,
  folder: string,
  copyTo: string | null,
  now: Date,
): Promise<{ file: string; bytes: number; sha256: string }> {
  await mkdir(folder, { recursive: true, mode: 0o700 });
  const file = path.join(folder, backupName(now));
  await writeBackup(ownerUrl, file);
  if (copyTo !== null) {
    const copy = path.join(copyTo, path.basename(file));
    await copyFile(file, `${copy}.part`);
    await rename(`${copy}.part`, copy);
  }
  for (const name of toRotateOut(await readdir(folder))) await rm(path.join(folder, name));
  return { file, bytes: (await stat(file)).size, sha256: await sha256Of(file) };
}
