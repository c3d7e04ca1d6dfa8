import { deflateRawSync } from 'node:zlib';
import type { ArchiveOutlook } from '@clear-mark/contract';
import {
  ARCHIVE_SCHEMA_ID,
  ARCHIVE_TABLE_NAMES,
  ARCHIVE_TABLES,
  archiveJsonSchema,
  type ArchiveTable,
} from '@clear-mark/contract/archive';
import { NO_REVIEW } from '@clear-mark/core';
import { Ajv2020 } from 'ajv/dist/2020.js';
import addFormats from 'ajv-formats';
import { v7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { canonicalJson } from '../src/chain/index.ts';
import { fileOf, forgedFrom, linesIn, textOf, zipped } from './archive-for-tests.ts';
import { refersOf, verifyRecords } from '../src/index.ts';
import { digestOf, keepFace } from './faces-for-tests.ts';
import { attemptBody, type Caller, wholePiece, World } from './harness.ts';
import { openAttempt } from './open-attempt.ts';
import { unzip } from './unzip.ts';

/** Tables that are not in an archive, each with why. */
const STAYING: Readonly<Record<string, string>> = {
  account_codes: 'accounts of this school',
  api_tokens: 'accounts of this school',
  audit_events: 'the trail of this school',
  backups: 'this installation',
  bench_devices: 'devices of this school',
  checks: 'this installation',
  class_days: 'days of this school’s rooms and people',
  day_loads: 'days of this school’s rooms and people',
  daily_heads: 'signed by the key of this installation',
  deliveries: 'told by this school',
  instrument_claims: 'devices of this school',
  instrument_spans: 'looked at when a reading is taken',
  instruments: 'addresses on the network of this school',
  method_draft_revisions: 'drafts of the school',
  method_drafts: 'drafts of the school',
  outcome_criteria: 'made of the signed records',
  outcome_losses: 'made of the signed records',
  outcome_skills: 'made of the signed records',
  picture_removals: 'the store of this school',
  receivers: 'told by this school',
  report_batches: 'jobs',
  schema_migrations: 'this installation',
  school_settings: 'the school',
  school_tables: 'the school; packs take them elsewhere',
  second_factors: 'accounts of this school',
  server_secret: 'this installation',
  session: 'accounts of this school',
  setup_code: 'this installation',
  sign_in_tries: 'accounts of this school',
  what_if_jobs: 'jobs',
};
/** Columns of archived tables that stay, each with why. */
const STAYING_COLUMNS: Readonly<Record<string, string>> = {
  'people.password_hash': 'secret',
  'people.pin_hash': 'secret',
  'people.device_key': 'secret',
  'people.created_at': 'made anew here',
  'people.disabled_at': 'closed here until a lead opens it',
  'people.last_sign_in': 'of this school',
  'method_versions.beside': 'of this school',
  'pictures.bytes': 'in a file of its own',
  'pictures.stored_at': 'where it lies here',
  'pictures.width': 'read anew here',
  'pictures.height': 'read anew here',
};

const own = openAttempt();
const NOTE = 'edge of the ferrule chipped';
let elsewhere: World;
let lead: Caller;
let leadThere: Caller;
let archive: Buffer;
let files: Map<string, Buffer>;

beforeAll(async () => {
  lead = await own.world.signedIn(await own.world.person('lead', 'Ruta Almqvist'));
  elsewhere = await World.make();
  // Another school has its methods under ids of its own.
  await elsewhere.owner.raw('update method_versions set id = gen_random_uuid()');
  leadThere = await elsewhere.signedIn(await elsewhere.person('lead', 'Fenna Osterdahl'));
  const begun = attemptBody(own.classroom);
  expect((await own.api.post(`/classes/${own.classroom.id}/attempts`, begun)).status).toBe(200);
  own.attemptId = begun.id;
  const face = await keepFace(own.api, own.classroom.id, [], { attemptId: own.attemptId, label: 'P-1' });
  const grading = { id: v7(), review: NO_REVIEW, traineeSaid: 'pass' };
  await own.api.post(`/classes/${own.classroom.id}/faces/${face}/gradings`, grading);
  const entries = wholePiece(own.attemptId, own.teacher, await own.references());
  entries[0] = { ...entries[0]!, note: NOTE };
  await own.receiptsOf(own.api, entries);
  expect((await own.sign(entries.map((e) => e.id))).status).toBe(200);
  await own.receiptsOf(own.api, [{ ...entries[0]!, id: v7(), supersedes: [entries[0]!.id] }]);
  const made = await lead.bytes('GET', `/classes/${own.classroom.id}/archive.zip`);
  expect([made.status, made.type]).toEqual([200, 'application/zip']);
  archive = made.body;
  files = await unzip(archive);
});
afterAll(() => elsewhere.close());

const send = (path: 'look' | 'take', bytes: Buffer, as = leadThere) =>
  as.bytes('PUT', `/archives/${path}`, bytes, 'application/zip');
const outlookOf = (reply: { body: Buffer }): ArchiveOutlook => JSON.parse(reply.body.toString());

const forged = (
  changes: Readonly<Record<string, string | Buffer | null>>,
  head: object = {},
): Promise<Buffer> => forgedFrom(files, changes, head);
const linesOf = (table: ArchiveTable): Record<string, unknown>[] => linesIn(files, table);

/** How many rows each table of the other school has. */
async function rowsThere(): Promise<Record<string, number>> {
  const tables: string[] = await elsewhere
    .owner('pg_tables')
    .where({ schemaname: 'public' })
    .pluck('tablename');
  const counts: Record<string, number> = {};
  for (const table of tables.filter((t) => t !== 'session')) {
    counts[table] = Number((await elsewhere.owner(table).count('* as n').first())!['n']);
  }
  return counts;
}

describe('the format', () => {
  it('has every table that hangs on a class, and every column but those that stay', async () => {
    const { rows } = await own.world.owner.raw(
      `select table_name as t, column_name as c from information_schema.columns
        where table_schema = 'public' and is_generated = 'NEVER'
          and table_name in (select tablename from pg_tables where schemaname = 'public')`,
    );
    const missing = (rows as { t: string; c: string }[])
      .filter(({ t }) => !(t in STAYING))
      .filter(({ t, c }) => !(c in (ARCHIVE_TABLES[t as ArchiveTable]?.row.shape ?? {})))
      .map(({ t, c }) => `${t}.${c}`)
      .filter((name) => !(name in STAYING_COLUMNS));
    expect(missing).toEqual([]);
    expect(Object.keys(STAYING).filter((t) => ARCHIVE_TABLE_NAMES.includes(t as never))).toEqual([]);
  });

  it('knows every reference between its tables that the database knows', async () => {
    const { rows } = await own.world.owner.raw(
      `select c.conrelid::regclass::text as t, c.confrelid::regclass::text as other, a.attname as c
         from pg_constraint c cross join unnest(c.conkey) k (n)
         join pg_attribute a on a.attrelid = c.conrelid and a.attnum = k.n
        where c.contype = 'f'`,
    );
    const known = ARCHIVE_TABLE_NAMES.flatMap((t) => refersOf(t).map(([c, to]) => `${t}.${c} ${to}`));
    // A pair of columns refers by the second of them; what a class has of a person or a version is in the class's own tables.
    const OF_PAIRS = ['class_members', 'class_methods'];
    const wanted = (rows as { t: string; c: string; other: string }[]).filter(
      ({ t, c, other }) =>
        t in ARCHIVE_TABLES && !OF_PAIRS.includes(other) && (c !== 'class_id' || other === 'classes'),
    );
    expect(wanted.length).toBeGreaterThan(50);
    expect(wanted.map(({ t, c, other }) => `${t}.${c} ${other}`).filter((x) => !known.includes(x))).toEqual(
      [],
    );
    // Each comes after those that it refers to.
    for (const table of ARCHIVE_TABLE_NAMES) {
      for (const [, to] of refersOf(table)) {
        expect(ARCHIVE_TABLE_NAMES.indexOf(to)).toBeLessThanOrEqual(ARCHIVE_TABLE_NAMES.indexOf(table));
      }
    }
  });

  it('is as its schema says, by a validator of another make', () => {
    const ajv = new Ajv2020({ strict: false });
    (addFormats as unknown as (of: Ajv2020) => void)(ajv);
    const schema = archiveJsonSchema();
    expect(JSON.parse(files.get('schema.json')!.toString())).toEqual(JSON.parse(JSON.stringify(schema)));
    ajv.addSchema(schema);
    const of = (part: string) => ajv.compile({ $ref: `${ARCHIVE_SCHEMA_ID}#/properties/${part}` });
    expect(of('archive')(JSON.parse(files.get('archive.json')!.toString()))).toBe(true);
    for (const table of ARCHIVE_TABLE_NAMES) {
      const line = of(table);
      for (const row of linesOf(table)) expect([table, line(row), line.errors]).toEqual([table, true, null]);
      expect(line({ id: 'no id' })).toBe(false);
    }
  });

  it('takes no secret along', () => {
    const people = files.get(fileOf('people'))!.toString();
    expect(people).toContain(own.teacher.name);
    expect(archive.toString('latin1')).not.toContain('argon2');
    expect(Object.keys(linesOf('people')[0]!)).toEqual(['id', 'login', 'name', 'role', 'erased_at']);
  });
});

describe('taking a class in', () => {
  it('is for leads', async () => {
    const teacher = await elsewhere.signedIn(await elsewhere.person('instructor'));
    for (const reply of [
      await send('look', archive, teacher),
      await send('take', archive, teacher),
      await own.api.bytes('GET', `/classes/${own.classroom.id}/archive.zip`),
    ]) {
      expect([reply.status, reply.code]).toEqual([403, 'auth.role']);
    }
  });

  it('says before what it would do, and changes nothing', async () => {
    const before = await rowsThere();
    const reply = await send('look', archive);
    expect(reply.status).toBe(200);
    const outlook = outlookOf(reply);
    expect(outlook).toMatchObject({ classId: own.classroom.id, here: false, records: 1, pictures: 1 });
    expect(outlook.people.map((p) => p.is)).toEqual(outlook.people.map(() => 'new'));
    expect(outlook.methods.every((m) => m.is === 'same')).toBe(true);
    expect(await rowsThere()).toEqual(before);
  });

  it('keeps ids, chain, notes, pictures and numbers, and tells nobody', async () => {
    const before = await rowsThere();
    const taken = await send('take', archive);
    expect([taken.status, taken.code]).toEqual([200, null]);
    const { owner } = elsewhere;
    for (const table of ['attempts', 'entries', 'signed_revisions', 'faces', 'outcome_criteria'] as const) {
      const here: { rows: object[] } = await own.world.owner.raw(
        `select t.* from ${table} t order by t::text`,
      );
      const there: { rows: object[] } = await owner.raw(`select t.* from ${table} t order by t::text`);
      // A class of the first world that is not in the archive has nothing in these tables.
      const inArchive = here.rows.filter((row) =>
        there.rows.some((x) => canonicalJson(x) === canonicalJson(row)),
      );
      expect(there.rows.length).toBeGreaterThan(0);
      expect(inArchive.length).toBe(there.rows.length);
    }
    expect((await verifyRecords(elsewhere.db, [])).findings).toEqual([]);
    const path = `/classes/${own.classroom.id}/results`;
    expect((await leadThere.get(path)).body).toEqual((await lead.get(path)).body);
    const document = (await leadThere.get(`/attempts/${linesOf('attempts')[0]!['id'] as string}`)).body as {
      entries: { note: string | null }[];
      late: unknown[];
    };
    expect(document.entries.some((e) => e.note === NOTE)).toBe(true);
    expect(document.late).toHaveLength(1);
    const [face] = linesOf('faces');
    const picture = await leadThere.bytes(
      'GET',
      `/classes/${own.classroom.id}/faces/${face!['id'] as string}/picture`,
    );
    expect(digestOf(picture.body)).toBe(face!['sha256']);
    const after = await rowsThere();
    expect(after['deliveries']).toBe(before['deliveries']);
    expect(after['audit_events']).toBe(before['audit_events']! + 1);
  });

  it('makes accounts that nobody enters before a lead has opened them', async () => {
    const reply = await elsewhere
      .caller()
      .post('/session', { login: own.teacher.login, password: 'correct horse battery' });
    expect(reply.status).toBe(401);
    const accounts = (await leadThere.get('/accounts')).body as { id: string }[];
    expect(accounts.find((a) => a.id === own.teacher.id)).toMatchObject({ disabled: true, signsIn: false });
  });

  it('goes on with the version of this school, and keeps the other for the records', async () => {
    const versions: { id: string; beside: boolean; in_use: boolean }[] = await elsewhere
      .owner('class_methods as c')
      .join('method_versions as v', 'v.id', 'c.method_version_id')
      .where('c.class_id', own.classroom.id)
      .select('v.id', 'v.beside', 'c.in_use');
    expect(versions).toHaveLength(2);
    expect(versions.find((v) => v.id === own.classroom.versionId)).toMatchObject({
      beside: true,
      in_use: false,
    });
    expect(versions.find((v) => v.id !== own.classroom.versionId)).toMatchObject({
      beside: false,
      in_use: true,
    });
    const shipped = (await leadThere.get('/method-versions')).body as { methodId: string }[];
    expect(new Set(shipped.map((m) => m.methodId)).size).toBe(shipped.length);
  });

  it('taken in twice at once it is here once', async () => {
    const twice = await World.make();
    const leads = await Promise.all([1, 2].map(async () => twice.signedIn(await twice.person('lead'))));
    const replies = await Promise.all(leads.map((l) => send('take', archive, l)));
    expect(replies.map((r) => r.status)).toEqual([200, 200]);
    expect(replies.map((r) => outlookOf(r).here).sort()).toEqual([false, true]);
    expect((await verifyRecords(twice.db, [])).findings).toEqual([]);
    await twice.close();
  });

  it('taken again changes nothing; with other content it is refused', async () => {
    const before = await rowsThere();
    const again = await send('take', archive);
    expect([again.status, outlookOf(again).here]).toEqual([200, true]);
    const pieces = linesOf('pieces').map((p) => ({ ...p, label: 'another' }));
    const other = await send('take', await forged({ [fileOf('pieces')]: textOf(pieces) }));
    expect([other.status, other.code]).toEqual([409, 'archive.other_content']);
    expect(await rowsThere()).toEqual(before);
  });
});

describe('an archive that is not to be trusted', () => {
  /** Takes it in at a school that has nothing of it, and holds that to having nothing of it afterwards. */
  let fresh: World;
  let freshLead: Caller;
  beforeAll(async () => {
    fresh = await World.make();
    freshLead = await fresh.signedIn(await fresh.person('lead'));
  });
  afterAll(() => fresh.close());
  async function refused(bytes: Buffer): Promise<string | null> {
    for (const path of ['look', 'take'] as const) {
      const reply = await send(path, bytes, freshLead);
      if (reply.status === 200) continue;
      const left = await fresh.owner('classes').whereNot('name', '').count('* as n').first();
      expect(Number(left!['n'])).toBe(0);
      expect(Number((await fresh.owner('people').count('* as n').first())!['n'])).toBe(1);
      expect(Number((await fresh.owner('pictures').count('* as n').first())!['n'])).toBe(0);
      return reply.code;
    }
    return null;
  }
  const withName = (from: string, to: string): Buffer =>
    Buffer.from(archive.toString('latin1').replaceAll(from, to), 'latin1');

  it('is no ZIP, is cut off, or is another ZIP', async () => {
    expect(await refused(Buffer.from('not a ZIP'))).toBe('archive.not_one');
    expect(await refused(archive.subarray(0, archive.length - 200))).toBe('archive.not_one');
    expect(await refused(await zipped(new Map([['notes.txt', Buffer.from('x')]])))).toBe('archive.bad_name');
    expect(await refused(await zipped(new Map()))).toBe('archive.not_one');
    expect(await refused(await forged({}, { format: 'something/else' }))).toBe('archive.not_one');
  });

  it.each([
    ['tables/people.jsonl', '../../../people.jso'],
    ['tables/people.jsonl', '/tables/people.json'],
    ['tables/people.jsonl', 'tables\\people.jsonl'],
    ['tables/people.jsonl', 'tables/peoples.json'],
    ['tables/people.jsonl', 'tables/things.jsonl'],
  ])('has the name %s turned into %s', async (from, to) => {
    expect(await refused(withName(from, to))).toBe('archive.bad_name');
  });

  it('is a bomb', async () => {
    const line = Buffer.alloc(30_000_000, 32);
    const bomb = await forged({ [fileOf('entries')]: line });
    expect(bomb.length).toBeLessThan(1_000_000);
    expect(deflateRawSync(line).length).toBeLessThan(line.length / 250);
    expect(await refused(bomb)).toBe('archive.too_large');
  });

  it('has another schema', async () => {
    expect(await refused(await forged({}, { schemaVersion: 2 }))).toBe('archive.other_schema');
    expect(await refused(await forged({}, { files: 'all' }))).toBe('archive.bad_line');
  });

  it('is not as it was written', async () => {
    const parts = new Map(files);
    parts.set(fileOf('things'), Buffer.from(textOf(linesOf('things').map((t) => ({ ...t, label: 'x' })))));
    expect(await refused(await zipped(parts))).toBe('archive.digest');
    expect(await refused(await forged({ [fileOf('things')]: null }))).toBe('archive.incomplete');
    parts.delete(fileOf('things'));
    expect(await refused(await zipped(parts))).toBe('archive.incomplete');
    const picture = [...files.keys()].find((name) => name.startsWith('pictures/'))!;
    expect(await refused(await forged({ [picture]: null }))).toBe('archive.incomplete');
    expect(await refused(await forged({ [picture]: Buffer.from('no picture') }))).toBe('archive.digest');
  });

  const LINES: readonly (readonly [
    string,
    ArchiveTable,
    (row: Record<string, unknown>) => object,
    string,
  ])[] = [
    ['a column too many', 'things', (r) => ({ ...r, colour: 'red' }), 'archive.bad_line'],
    ['a column too few', 'things', ({ label: _, ...r }) => r, 'archive.bad_line'],
    ['a value of another kind', 'entries', (r) => ({ ...r, seq: 'first' }), 'archive.bad_line'],
    ['a policy that counts nothing', 'classes', (r) => ({ ...r, policy: {} }), 'archive.bad_line'],
    [
      'a time zone of nowhere',
      'classes',
      (r) => ({ ...r, time_zone: 'Nowhere/At_All' }),
      'class.bad_time_zone',
    ],
    ['days that are crossed', 'classes', (r) => ({ ...r, ends_on: '2020-01-01' }), 'archive.broken'],
    ['another class', 'things', (r) => ({ ...r, class_id: v7() }), 'archive.broken'],
    ['an author who is not there', 'entries', (r) => ({ ...r, author_id: v7() }), 'archive.broken'],
    ['an entry of another piece', 'entries', (r) => ({ ...r, attempt_id: v7() }), 'archive.broken'],
    [
      'a record that was changed',
      'signed_revisions',
      (r) => ({ ...r, scoring_version: 1 }),
      'archive.not_sound',
    ],
    ['an entry that was changed', 'entries', (r) => ({ ...r, part: 'x' }), 'archive.not_sound'],
    ['a note that was changed', 'entry_notes', (r) => ({ ...r, text: 'all well' }), 'archive.not_sound'],
    ['a sheet that was changed', 'method_versions', (r) => ({ ...r, version: 9 }), 'archive.digest'],
    ['a head of the chain that is off', 'class_chains', (r) => ({ ...r, next_seq: 9 }), 'archive.not_sound'],
  ];
  it.each(LINES)('has %s', async (_, table, change, code) => {
    expect(await refused(await forged({ [fileOf(table)]: textOf(linesOf(table).map(change)) }))).toBe(code);
  });

  it('has a line that is no JSON, or the class twice', async () => {
    expect(await refused(await forged({ [fileOf('things')]: '{"id":' }))).toBe('archive.bad_line');
    const [row] = linesOf('classes');
    expect(await refused(await forged({ [fileOf('classes')]: textOf([row!, row!]) }))).toBe('archive.broken');
    expect(await refused(await forged({ [fileOf('class_chains')]: '' }))).toBe('archive.broken');
    const none = linesOf('class_chains').map((r) => ({ ...r, next_seq: 1, last_hash: null }));
    expect(await refused(await forged({ [fileOf('class_chains')]: textOf(none) }))).toBe('archive.not_sound');
  });

  it('has an id that is taken here by something else', async () => {
    const [thing] = linesOf('things');
    const classroom = await fresh.classOf([await fresh.person('instructor')], []);
    await fresh.owner('things').insert({
      id: thing!['id'] as string,
      class_id: classroom.id,
      kind: 'bench',
      label: 'Ours',
    });
    const reply = await send('take', archive, freshLead);
    expect([reply.status, reply.code]).toEqual([409, 'archive.other_content']);
    expect(await fresh.owner('things').where({ label: 'Ours' }).pluck('class_id')).toEqual([classroom.id]);
  });

  it('brings back nobody who was erased here', async () => {
    const person = linesOf('people').find((p) => p['id'] === own.trainee.id)!;
    await fresh.owner('people').insert({
      id: person['id'] as string,
      login: 'erased-1',
      name: 'Erased person 1',
      role: 'trainee',
      erased_at: new Date(),
    });
    const reply = await send('take', archive, freshLead);
    expect([reply.status, reply.code]).toEqual([409, 'archive.erased_here']);
  });
});
