import pg from 'pg';
import { type Measured, medianOf } from './measured.ts';

/** How many entries lie there: five years of them. */
const ENTRIES = Number(process.env['CLEAR_MARK_SCALE_ENTRIES'] ?? '2000000');
const AN_ATTEMPT = 35;
const YEARS = [2022, 2023, 2024, 2025, 2026] as const;
const OLDEST = YEARS[0];
const YEAR_MS = 31_536_000_000;
const BEGAN_MS = Date.UTC(OLDEST, 0, 1);
const READS = 400;
const BATCHES = 200;

interface Times {
  readonly readNewMs: number;
  readonly readAnyMs: number;
  readonly insertMs: number;
  readonly yearOutS: number;
  readonly vacuumS: number;
  readonly gigabytes: number;
}

/**
 * The table of entries whole against the same in a partition a year, by the time in the id of the piece, so that what must be unique in
 * a piece still is: reading a piece, taking one in, vacuum after a hundredth was added, and taking the oldest year out.
 */
export async function benchPartitions(url: string): Promise<Measured> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    const whole = await measured(client, 'whole', false);
    const parted = await measured(client, 'parted', true);
    const pair = (of: (t: Times) => number, unit: string): string =>
      `${of(whole).toFixed(2)} and ${of(parted).toFixed(2)} ${unit}`;
    return {
      name: `${(ENTRIES / 1e6).toFixed(0)} million entries: a piece read, in a partition a year / whole`,
      ratio: parted.readNewMs / whole.readNewMs,
      most: 1.25,
      unit: 'times',
      detail: `whole and in partitions: a new piece read ${pair((t) => t.readNewMs, 'ms')}, any piece ${pair((t) => t.readAnyMs, 'ms')}, ${AN_ATTEMPT} entries taken ${pair((t) => t.insertMs, 'ms')}, vacuum ${pair((t) => t.vacuumS, 's')}, a year taken out ${pair((t) => t.yearOutS, 's')}, ${pair((t) => t.gigabytes, 'GB')}`,
    };
  } finally {
    await client.end();
  }
}

async function measured(client: pg.Client, table: string, parted: boolean): Promise<Times> {
  await make(client, table, parted);
  const ids = async (since: number): Promise<string[]> => {
    const from = uuidAt(since);
    const { rows } = await client.query<{ id: string }>(
      `select attempt_id as id from ${table} where attempt_id >= $1 and random() < $2 limit ${READS}`,
      [from, Math.min(1, (READS * 40) / ENTRIES)],
    );
    return rows.map((r) => r.id);
  };
  const read = async (attempts: readonly string[]): Promise<number> => {
    const times: number[] = [];
    for (const id of attempts) {
      const began = performance.now();
      await client.query(`select * from ${table} where attempt_id = $1 order by seq`, [id]);
      times.push(performance.now() - began);
    }
    return medianOf(times);
  };
  const newest = await ids(BEGAN_MS + (YEARS.length - 0.1) * YEAR_MS);
  const any = await ids(BEGAN_MS);
  await read(newest);
  const readNewMs = await read(newest);
  await read(any);
  const readAnyMs = await read(any);
  const insertMs = await insert(client, table);
  const gigabytes = await sizeOf(client, table);
  await client.query(fill(table, Math.floor(ENTRIES / 100 / AN_ATTEMPT), YEARS.length - 0.02, 0.01));
  const vacuumS = await seconds(() => client.query(`vacuum ${table}`));
  const yearOutS = await seconds(async () => {
    if (parted) await client.query(`alter table ${table} detach partition ${table}_${OLDEST}`);
    else await client.query(`delete from ${table} where attempt_id < $1`, [uuidAt(BEGAN_MS + YEAR_MS)]);
    if (!parted) await client.query(`vacuum ${table}`);
  });
  await client.query(`drop table ${table}`);
  if (parted) await client.query(`drop table ${table}_${OLDEST}`);
  return { readNewMs, readAnyMs, insertMs, yearOutS, vacuumS, gigabytes };
}

async function make(client: pg.Client, table: string, parted: boolean): Promise<void> {
  await client.query(`create table ${table} (
    id uuid not null, attempt_id uuid not null, seq integer not null, kind text not null, criterion_id text,
    part text not null default '', value jsonb, author_id uuid not null, capacity text not null,
    device_id uuid not null, source text not null, at timestamptz not null, clock_offset_ms integer not null default 0,
    received_at timestamptz not null default now(), supersedes uuid[] not null default '{}'
  ) ${parted ? 'partition by range (attempt_id)' : ''}`);
  if (parted) {
    for (const [i, year] of YEARS.entries()) {
      const from = i === 0 ? 'minvalue' : `'${uuidAt(BEGAN_MS + i * YEAR_MS)}'`;
      const to = i === YEARS.length - 1 ? 'maxvalue' : `'${uuidAt(BEGAN_MS + (i + 1) * YEAR_MS)}'`;
      await client.query(
        `create table ${table}_${year} partition of ${table} for values from (${from}) to (${to})`,
      );
    }
  }
  await client.query(fill(table, Math.floor(ENTRIES / AN_ATTEMPT), 0, YEARS.length));
  await client.query("set maintenance_work_mem = '1GB'");
  // What is unique over partitions has the key of the partition in it.
  await client.query(`alter table ${table} add primary key (${parted ? 'id, attempt_id' : 'id'})`);
  await client.query(`create unique index on ${table} (attempt_id, seq)`);
  await client.query(`vacuum analyze ${table}`);
}

/** Pieces spread over years, their entries a few seconds apart, as devices make them. */
const fill = (table: string, attempts: number, fromYear: number, years: number): string => `
  insert into ${table} (id, attempt_id, seq, kind, criterion_id, value, author_id, capacity, device_id, source, at)
  select ${uuidSql('a.ms + 4000 * s', "md5(a.n || '/' || s)")}, ${uuidSql('a.ms', "md5('a' || a.n || random())")}, s,
         'value', 'clear-mark/lc-wedge-locator/glasses', '{"kind": "check", "passed": true}',
         '0190aaaa-0000-7000-8000-000000000001', 'instructor', '0190aaaa-0000-7000-8000-000000000002', 'typed',
         to_timestamp((a.ms + 4000 * s) / 1000.0)
    from (select n, (${BEGAN_MS} + (${fromYear} + ${years} * n::float8 / ${attempts}) * ${YEAR_MS})::bigint as ms
            from generate_series(0, ${attempts - 1}) n offset 0) a, generate_series(1, ${AN_ATTEMPT}) s`;

/** A UUIDv7 (RFC 9562) of an instant and of hex digits. */
const uuidSql = (ms: string, hex: string): string =>
  `(lpad(to_hex(${ms}), 12, '0') || '7' || substr(${hex}, 1, 3) || '8' || substr(${hex}, 4, 15))::uuid`;
const uuidAt = (ms: number): string => {
  const hex = Math.round(ms).toString(16).padStart(12, '0');
  return `${hex.slice(0, 8)}-${hex.slice(8)}-0000-0000-000000000000`;
};

async function insert(client: pg.Client, table: string): Promise<number> {
  const times: number[] = [];
  for (let i = 0; i < BATCHES; i++) {
    const began = performance.now();
    await client.query(fill(table, 1, YEARS.length - 0.05 + i / 1e6, 0.000_001));
    times.push(performance.now() - began);
  }
  return medianOf(times);
}

async function sizeOf(client: pg.Client, table: string): Promise<number> {
  const { rows } = await client.query<{ bytes: string }>(
    `select sum(pg_total_relation_size(oid)) as bytes from pg_class where relkind = 'r' and relname ~ ('^' || $1 || '(_|$)')`,
    [table],
  );
  return Number(rows[0]!.bytes) / 1e9;
}

async function seconds(act: () => Promise<unknown>): Promise<number> {
  const began = performance.now();
  await act();
  return (performance.now() - began) / 1000;
}
