import type { Knex } from 'knex';

export const name = '0032-traces';

/** Traces of an OTDR with their files, series of them that are read blind, and instruments that take them. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    create table traces (
      id uuid primary key,
      class_id uuid not null references classes (id),
      sha256 text not null check (sha256 ~ '^[0-9a-f]{64}$'),
      bytes bytea not null check (length(bytes) between 1 and 3000000),
      label text not null,
      link_id uuid references links (id),
      fiber integer check (fiber > 0),
      direction text check (direction in ('a_b', 'b_a')),
      launch_m double precision check (launch_m >= 0),
      receive_m double precision check (receive_m >= 0),
      attempt_id uuid,
      source text not null check (source in ('file', 'instrument', 'stand_in')),
      wavelength_nm double precision not null,
      pulse_ns double precision not null,
      points integer not null check (points > 1),
      taken_at timestamptz not null,
      taken_by uuid not null references people (id),
      unique (class_id, id),
      foreign key (class_id, attempt_id) references attempts (class_id, id)
    );
    create index traces_class on traces (class_id, taken_at desc);
    create index traces_attempt on traces (attempt_id) where attempt_id is not null;
    -- What is said of a trace may be put right; its file is what came.
    create function keep_trace_file() returns trigger language plpgsql as $$
    begin
      raise exception 'the file of a trace is append only';
    end $$;
    create trigger traces_keep_their_file before update of bytes, sha256, class_id, wavelength_nm, pulse_ns, points, source
      on traces for each row execute function keep_trace_file();
    create trigger traces_stay before delete on traces for each row execute function refuse_change();
    create table trace_series (
      id uuid primary key,
      class_id uuid not null references classes (id),
      label text not null check (length(trim(label)) between 1 and 60),
      made_by uuid not null references people (id),
      made_at timestamptz not null default now()
    );
    create index trace_series_class on trace_series (class_id, made_at desc);
    create table trace_items (
      trace_series_id uuid not null references trace_series (id),
      position integer not null check (position >= 0),
      trace_id uuid not null references traces (id),
      -- What was on it when the series was made.
      events jsonb not null,
      within_m double precision not null check (within_m > 0),
      reference text not null check (reference in ('pass', 'fail')),
      primary key (trace_series_id, position)
    );
    create table trace_runs (
      id uuid primary key,
      trace_series_id uuid not null references trace_series (id),
      person_id uuid not null references people (id),
      started_at timestamptz not null,
      finished_at timestamptz,
      attempt_id uuid references attempts (id),
      unique (trace_series_id, person_id)
    );
    create table trace_answers (
      trace_run_id uuid not null references trace_runs (id),
      position integer not null,
      marks jsonb not null default '[]',
      said text not null check (said in ('pass', 'fail')),
      ms integer not null check (ms >= 0),
      at timestamptz not null default now(),
      primary key (trace_run_id, position)
    );
    create trigger trace_items_append_only before update or delete on trace_items
      for each row execute function refuse_change();
    create trigger trace_answers_append_only before update or delete on trace_answers
      for each row execute function refuse_change();
  `);
  const { rows } = (await db.raw(
    `select c.relname as table, o.conname as name from pg_constraint o join pg_class c on c.oid = o.conrelid
      where o.contype = 'c' and pg_get_constraintdef(o.oid) like '%port_light%'`,
  )) as { rows: { table: string; name: string }[] };
  for (const { table, name: constraint } of rows) {
    await db.raw('alter table ?? drop constraint ??', [table, constraint]);
    await db.raw(
      `alter table ?? add constraint ?? check (kind in ('power_meter', 'source', 'splicer', 'port_light', 'otdr')) not valid`,
      [table, constraint],
    );
    await db.raw('alter table ?? validate constraint ??', [table, constraint]);
  }
}
