import { PassThrough, Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { ARCHIVE_TABLE_NAMES, ARCHIVE_TABLES, type ArchiveTable } from '@clear-mark/contract/archive';
import type pg from 'pg';
import { from as copyFrom, to as copyTo } from 'pg-copy-streams';
import { OUTCOME_TABLES, type OutcomeRows } from '../attempts/index.ts';
import type { Database } from '../database/database.ts';
import { own, rowsOf, sql } from '../database/sql.ts';
import { copyText } from './copy-text.ts';
import type { Row } from './archive-rows.ts';

/** JSON has no such characters in it, so that each line passes as it is. */
const LINES = String.raw`(format csv, quote e'\x01', delimiter e'\x02')`;
const ID = /^[0-9a-f-]{36}$/;

/** Which rows of a table belong to the class. */
const OF_ATTEMPTS = 't.attempt_id in (select id from attempts where class_id = $)';
const OF_ENTRIES =
  't.entry_id in (select e.id from entries e join attempts a on a.id = e.attempt_id where a.class_id = $)';
const OF_SERIES = 't.series_id in (select id from call_series where class_id = $)';
const OF_TRACE_SERIES = 't.trace_series_id in (select id from trace_series where class_id = $)';
const OTHER_ROWS: Readonly<Partial<Record<ArchiveTable, string>>> = {
  classes: 't.id = $',
  method_versions: 't.id in (select method_version_id from class_methods where class_id = $)',
  entries: OF_ATTEMPTS,
  readings: OF_ATTEMPTS,
  unmerged_entries: OF_ATTEMPTS,
  late_decisions: OF_ATTEMPTS,
  entry_notes: OF_ENTRIES,
  entry_confirmations: OF_ENTRIES,
  reference_changes: 't.reference_id in (select id from loss_references where class_id = $)',
  pictures:
    't.sha256 in (select sha256 from picture_uploads where class_id = $ union select sha256 from faces where class_id = $ union select sha256 from measured_pictures where class_id = $)',
  face_gradings: 't.face_id in (select id from faces where class_id = $)',
  call_items: OF_SERIES,
  call_runs: OF_SERIES,
  call_answers:
    't.run_id in (select r.id from call_runs r join call_series s on s.id = r.series_id where s.class_id = $)',
  trace_items: OF_TRACE_SERIES,
  trace_runs: OF_TRACE_SERIES,
  trace_answers:
    't.trace_run_id in (select r.id from trace_runs r join trace_series s on s.id = r.trace_series_id where s.class_id = $)',
  certificate_withdrawals: 't.certificate_id in (select id from certificates where class_id = $)',
};
const rowsOfClass = (table: ArchiveTable): string => OTHER_ROWS[table] ?? 't.class_id = $';

const listOf = (columns: readonly string[]): string => columns.map((column) => `"${column}"`).join(', ');
const columnsOf = (table: ArchiveTable): string => listOf(Object.keys(ARCHIVE_TABLES[table].row.shape));

/** The driver's connection of a transaction: copying goes past the query builder. */
const connectionOf = async (trx: Database): Promise<pg.Client> =>
  (await trx.client.acquireConnection()) as pg.Client;

/** Rows as `copyText` writes them, into these columns of a table. */
async function copyInto(
  trx: Database,
  table: string,
  columns: readonly string[],
  text: Readable,
): Promise<void> {
  const connection = await connectionOf(trx);
  await pipeline(text, connection.query(copyFrom(`copy ${table} (${listOf(columns)}) from stdin`)));
}

/** Reads the rows of a class, within one transaction, so that all are of one instant. */
export async function archiveSource(trx: Database, classId: string) {
  if (!ID.test(classId)) throw new TypeError('not an id');
  const fill = (condition: string): string => condition.replaceAll('$', `'${classId}'::uuid`);
  const keys = await rowsOf<{ name: ArchiveTable; columns: string }>(
    trx,
    sql`select c.relname as name, string_agg(quote_ident(a.attname), ', ' order by k.n) as columns
          from pg_index i join pg_class c on c.oid = i.indrelid
          cross join unnest(i.indkey) with ordinality as k (attnum, n)
          join pg_attribute a on a.attrelid = c.oid and a.attnum = k.attnum
         where i.indisprimary and c.relnamespace = current_schema()::regnamespace
           and c.relname = any(${ARCHIVE_TABLE_NAMES}) group by c.relname`,
  );
  const people = await personColumns(trx);
  const named = people
    .map(({ name, column }) => `select t."${column}" from ${name} t where ${fill(rowsOfClass(name))}`)
    .join(' union ');
  return {
    /** The rows of a table, a JSON object a line, in the order of their keys. */
    lines: async (table: ArchiveTable): Promise<Readable> => {
      const condition = table === 'people' ? `t.id in (${named})` : fill(rowsOfClass(table));
      const order = keys.find((k) => k.name === table)!.columns;
      const rows = `select ${columnsOf(table)} from ${table} t where ${condition} order by ${order}`;
      const connection = await connectionOf(trx);
      return connection.query(
        copyTo(`copy (select row_to_json(r) from (${rows}) r) to stdout with ${LINES}`),
      );
    },
    pictures: (): Promise<{ sha256: string; mediaType: string }[]> =>
      rowsOf(
        trx,
        sql`select sha256, media_type as "mediaType" from pictures t
             where ${own(fill(rowsOfClass('pictures')))} order by sha256`,
      ),
  };
}

/** Columns of archived tables that name a person, as the database has them. */
const personColumns = (trx: Database): Promise<{ name: ArchiveTable; column: string }[]> =>
  rowsOf(
    trx,
    sql`select c.relname as name, a.attname as column
          from pg_constraint f join pg_class c on c.oid = f.conrelid
          join pg_attribute a on a.attrelid = c.oid and a.attnum = f.conkey[1]
         where f.contype = 'f' and f.confrelid = 'people'::regclass and c.relname = any(${ARCHIVE_TABLE_NAMES})
         order by 1, 2`,
  );

export interface PersonHere {
  readonly id: string;
  readonly name: string;
  readonly erased: boolean;
}
export interface VersionHere {
  readonly id: string;
  readonly methodId: string;
  readonly version: number;
  readonly state: string;
  readonly digest: string;
  readonly beside: boolean;
}

/** What is here already of what an archive names. */
export const archiveHere = (db: Database) => ({
  people: (ids: readonly string[]): Promise<PersonHere[]> =>
    rowsOf(
      db,
      sql`select id, name, erased_at is not null as erased from people where id = any(${ids}::uuid[])`,
    ),
  /** Sign-in names that are taken and begin like one of these. */
  loginsLike: async (logins: readonly string[]): Promise<Set<string>> =>
    new Set(
      (
        await rowsOf<{ login: string }>(
          db,
          sql`select p.login from people p where exists (
                select 1 from unnest(${logins}::text[]) w where left(p.login, length(w)) = w or p.login = w)`,
        )
      ).map((r) => r.login),
    ),
  /** Versions under one of these ids, and all versions of these methods. */
  versions: (ids: readonly string[], methodIds: readonly string[]): Promise<VersionHere[]> =>
    rowsOf(
      db,
      sql`select id, method_id as "methodId", version, state, digest, beside from method_versions
           where id = any(${ids}::uuid[]) or method_id = any(${methodIds})`,
    ),
  hasClass: async (id: string): Promise<boolean> =>
    (await rowsOf(db, sql`select 1 from classes where id = ${id}`)).length > 0,
});

export interface NewPerson {
  readonly id: string;
  readonly login: string;
  readonly name: string;
  readonly role: string;
  readonly erasedAt: string | null;
}
export interface NewVersion {
  readonly row: Row;
  readonly state: string;
  readonly is: string;
  readonly there: boolean;
}

/** Bytes of rows that wait while the database is at work on the table before. */
const MOST_WAITING = 64 * 1024 ** 2;

/**
 * Writes the rows of an archive, within one transaction. Tables are written one after the other, while the next one is being
 * read: `flush` waits for all of them.
 */
export const archiveSink = (trx: Database, classId: string) => {
  /** Pieces that are not open: they become so after their entries came, since a signed one takes none. */
  const states = new Map<string, string>();
  let arrays: ReadonlySet<string> = new Set();
  let written: Promise<void> = begin(trx, classId).then((found) => void (arrays = found));
  const next = (write: () => Promise<void>): Promise<void> => {
    written = written.then(write);
    written.catch(() => undefined); // It is thrown again by the next one, and by flush.
    return written;
  };
  return {
    flush: (): Promise<void> => written,

    /** Accounts that nobody can sign in to before a lead has opened them. */
    addPeople: (people: readonly NewPerson[]): Promise<void> =>
      next(async () => {
        if (people.length === 0) return;
        await trx('people').insert(
          people.map(({ erasedAt, ...p }) => ({ ...p, disabled_at: trx.fn.now(), erased_at: erasedAt })),
        );
      }),

    /** Those that are not here; beside the school's own where it has the method. */
    addVersions: (versions: readonly NewVersion[]): Promise<void> =>
      next(async () => {
        for (const { row, state, is } of versions.filter((v) => !v.there)) {
          await rowsOf(
            trx,
            sql`insert into method_versions (id, method_id, version, state, title, sheet, digest, made_at, beside)
                select id, method_id, version, ${state}, title, sheet, digest, made_at, ${is !== 'new'}
                  from json_populate_record(null::method_versions, ${JSON.stringify(row)}::json)`,
          );
        }
      }),

    addMethods: (versions: ReadonlyMap<string, boolean>): Promise<void> =>
      next(async () => {
        const rows = [...versions].map(([id, inUse]) => ({
          class_id: classId,
          method_version_id: id,
          in_use: inUse,
        }));
        if (rows.length > 0) await trx('class_methods').insert(rows);
      }),

    addPicture: (row: Row, bytes: Buffer): Promise<void> =>
      next(async () => {
        await rowsOf(
          trx,
          sql`insert into pictures (sha256, media_type, bytes, received_at, erased_at)
              select sha256, media_type, ${bytes}, received_at, erased_at
                from json_populate_record(null::pictures, ${JSON.stringify(row)}::json)
              on conflict (sha256) do nothing`,
        );
      }),

    /** Takes the rows of a table; done when they are read. */
    addRows: async (table: ArchiveTable, groups: AsyncIterable<readonly Row[]>): Promise<void> => {
      const waiting = new PassThrough({ highWaterMark: MOST_WAITING });
      const columns = Object.keys(ARCHIVE_TABLES[table].row.shape);
      const text = async function* (): AsyncGenerator<Buffer> {
        const textOf = copyText(columns, (column) => arrays.has(`${table}.${column}`));
        for await (const rows of groups) {
          if (table === 'attempts')
            for (const row of rows) states.set(String(row['id']), String(row['state']));
          yield Buffer.from(
            rows.map((r) => textOf(table === 'attempts' ? { ...r, state: 'open' } : r)).join(''),
          );
        }
      };
      // What could not be written ends the reading too; where that is over already, `flush` throws it and nobody listens here.
      waiting.on('error', () => undefined);
      next(() => copyInto(trx, table, columns, waiting)).catch((error: Error) => waiting.destroy(error));
      await pipeline(Readable.from(text(), { objectMode: false }), waiting);
    },

    /** What is counted by, made of the signed records. */
    addOutcomes: (outcomes: readonly OutcomeRows[]): Promise<void> =>
      next(async () => {
        for (const [table, name] of OUTCOME_TABLES) {
          const rows = outcomes.flatMap((o): Row[] => o[name]);
          if (rows.length === 0) continue;
          const columns = Object.keys(rows[0]!);
          const textOf = copyText(columns, (column) => arrays.has(`${table}.${column}`));
          const text = Buffer.from(rows.map(textOf).join(''));
          await copyInto(trx, table, columns, Readable.from([text], { objectMode: false }));
        }
      }),

    /** After the entries: the pieces are as they were. */
    setStates: (): Promise<void> =>
      next(async () => {
        await rowsOf(
          trx,
          sql`update attempts a set state = s.state
                from unnest(${[...states.keys()]}::uuid[], ${[...states.values()]}::text[]) as s (id, state)
               where s.id = a.id and s.state <> 'open'`,
        );
      }),
  };
};

/**
 * For this transaction: other programs are not told of what happened long ago; rows that it has just written are found by
 * their indexes, since the planner knows nothing of them yet; and long texts are pressed the quicker way, where the
 * database was built with it. Gives the columns that are arrays, as `table.column`.
 */
async function begin(trx: Database, classId: string): Promise<ReadonlySet<string>> {
  await rowsOf(
    trx,
    sql`select set_config('clear_mark.taking_archive', ${classId}, true), set_config('enable_seqscan', 'off', true)`,
  );
  await rowsOf(
    trx,
    sql`select set_config(name, 'lz4', true) from pg_settings
         where name = 'default_toast_compression' and 'lz4' = any(enumvals)`,
  );
  const found = await rowsOf<{ name: string }>(
    trx,
    sql`select c.relname || '.' || a.attname as name
          from pg_attribute a join pg_class c on c.oid = a.attrelid join pg_type t on t.oid = a.atttypid
         where c.relnamespace = current_schema()::regnamespace and a.attnum > 0 and t.typcategory = 'A'
           and c.relname = any(${[...ARCHIVE_TABLE_NAMES, ...OUTCOME_TABLES.map(([name]) => name)]})`,
  );
  return new Set(found.map((r) => r.name));
}
