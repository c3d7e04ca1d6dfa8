import { existsSync } from 'node:fs';
import { mkdtemp, rm, stat } from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import type { Person } from '@clear-mark/contract';
import { SCENARIO } from '@clear-mark/demo';
import {
  type Database,
  makeArchive,
  migrate,
  openArchive,
  openDatabase,
  recordHash,
  syncShippedMethods,
  takeArchive,
  verifyStore,
} from '@clear-mark/server';
import pg from 'pg';
import { binFolder, run } from '../database-user.ts';
import { loadDemo } from '../load-demo.ts';
import { copyAttempts } from './copy-attempts.ts';
import { type Measured, medianOf } from './measured.ts';
import { timed } from './results.ts';

const ATTEMPTS = 10_000;
const ROUNDS = 3;
const PAGE = 200;
const LONG_MS = 600_000;

/**
 * A class of 10,000 pieces taken out as an archive and into another school, its chain of records checked, against a bare dump
 * of the same rows and its restoring.
 */
export async function benchArchive(url: string): Promise<Measured> {
  const folder = await mkdtemp(path.join(os.tmpdir(), 'clear-mark-bench-'));
  const db = openDatabase(url, 4, LONG_MS, 0);
  try {
    const classOf = await loaded(db);
    const zip = path.join(folder, 'class.zip');
    const dump = path.join(folder, 'class.dump');
    const times: { archive: number; bare: number; out: number }[] = [];
    for (let round = 0; round < ROUNDS; round++) {
      const out = await timed(() => makeArchive(db, classOf, new Date(), zip));
      const into = await otherSchool(url, (there, me) => timed(() => takenIn(there, zip, me)));
      times.push({ archive: out + into, out, bare: await dumpedAndRestored(url, dump) });
    }
    const middle = (of: (t: (typeof times)[number]) => number): number => medianOf(times.map(of));
    const seconds = (ms: number): string => `${(ms / 1000).toFixed(1)} s`;
    return {
      name: 'class archive of 10,000 pieces out and in / pg_dump and restore',
      ratio: middle((t) => t.archive / t.bare),
      most: 3,
      unit: 'times',
      detail: `out ${seconds(middle((t) => t.out))}, in ${seconds(middle((t) => t.archive - t.out))}; dump and restore ${seconds(middle((t) => t.bare))}; archive ${await megabytes(zip)}, dump ${await megabytes(dump)}`,
    };
  } finally {
    await db.destroy();
    await rm(folder, { recursive: true, force: true });
  }
}

const megabytes = async (file: string): Promise<string> => `${((await stat(file)).size / 1e6).toFixed(0)} MB`;

async function loaded(db: Database): Promise<{ id: string; name: string }> {
  await migrate(db);
  await syncShippedMethods(db);
  if (await loadDemo(db, { seed: 7, story: false, now: new Date() })) {
    await copyAttempts(db, ATTEMPTS, true);
  }
  const [found] = await db('classes').where({ name: SCENARIO.className }).select('id', 'name');
  await rechained(db, found.id);
  return found;
}

/** Copied records are not the ones that were signed: the chain of the class is made anew over all of them. */
async function rechained(db: Database, classId: string): Promise<void> {
  await db.raw('alter table signed_revisions disable trigger user');
  await db.raw(
    `update signed_revisions set evidence = jsonb_set(evidence, '{faces}', '[]') where class_id = ?`,
    [classId],
  );
  const store = verifyStore(db);
  let previousHash: string | null = null;
  let seq = 0;
  for (let after = 0; ;) {
    const page = await store.page(classId, after, 2_147_483_647, PAGE);
    if (page.length === 0) break;
    after = page.at(-1)!.classSeq;
    const entries = await store.entriesOf(page.map((r) => r.attemptId));
    for (const r of page) {
      seq += 1;
      const all = entries.get(r.attemptId) ?? [];
      const its = r.newest ? all : all.filter((e) => Number(e.seq) <= r.lastSeq!);
      const record = { ...r, classSeq: seq, previousHash, lastSeq: its.length };
      const made = await recordHash(db, record, its);
      await db('signed_revisions')
        .where({ class_id: classId, attempt_id: r.attemptId, revision: r.revision })
        .update({
          class_seq: seq,
          previous_hash: previousHash,
          last_seq: its.length,
          entries_digest: made.entriesDigest,
          hash: made.hash,
        });
      previousHash = made.hash;
    }
  }
  await db('class_chains')
    .where({ class_id: classId })
    .update({ next_seq: seq + 1, last_hash: previousHash });
  await db.raw('alter table signed_revisions enable trigger user');
  await db.raw('vacuum analyze');
}

const takenIn = async (there: Database, zip: string, me: Person): Promise<void> => {
  const archive = await openArchive(zip);
  try {
    await takeArchive(there, archive, me);
  } finally {
    archive.close();
  }
};

async function otherSchool<T>(url: string, work: (there: Database, me: Person) => Promise<T>): Promise<T> {
  const other = await emptyDatabase(url, 'bench_archive_there');
  const there = openDatabase(other, 2, LONG_MS, 0);
  try {
    await migrate(there);
    await syncShippedMethods(there);
    const me: Person = {
      id: '0190aaaa-0000-7000-8000-000000000001',
      name: 'Lead',
      login: 'lead-x',
      role: 'lead',
    };
    await there('people').insert(me);
    return await work(there, me);
  } finally {
    await there.destroy();
  }
}

async function emptyDatabase(url: string, name: string): Promise<string> {
  const client = new pg.Client({ connectionString: url.replace(/[^/]*$/, 'postgres') });
  await client.connect();
  try {
    await client.query(`drop database if exists ${name} with (force)`);
    await client.query(`create database ${name}`);
  } finally {
    await client.end();
  }
  return url.replace(/[^/]*$/, name);
}

/** The whole database, which holds little else than the class. */
async function dumpedAndRestored(url: string, dump: string): Promise<number> {
  const bin = await binFolder();
  const there = await emptyDatabase(url, 'bench_archive_restored');
  if (existsSync(dump)) await rm(dump);
  return timed(async () => {
    await run(path.join(bin, 'pg_dump'), ['-Fc', '-d', url, '-f', dump]);
    await run(path.join(bin, 'pg_restore'), ['-d', there, dump]);
  });
}
