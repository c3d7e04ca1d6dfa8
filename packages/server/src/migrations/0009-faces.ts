import type { Knex } from 'knex';

export const name = '0009-faces';

/**
 * Pictures of end faces with what the engine and the instructor made of them; tables of criteria of a class; series of
 * pictures that are called blind. Pictures are content-addressed, so that one that is sent twice is there once.
 */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    create table pictures (
      sha256 text primary key check (sha256 ~ '^[0-9a-f]{64}$'),
      media_type text not null check (media_type in ('image/png', 'image/jpeg')),
      bytes bytea not null check (length(bytes) between 1 and 12000000),
      received_at timestamptz not null default now()
    );
    create table face_tables (
      class_id uuid not null references classes (id),
      base text not null,
      version integer not null check (version > 0),
      body jsonb not null,
      made_by uuid not null references people (id),
      made_at timestamptz not null default now(),
      primary key (class_id, base, version)
    );
    create table faces (
      id uuid primary key,
      class_id uuid not null references classes (id),
      sha256 text not null references pictures (sha256),
      label text not null,
      width integer not null,
      height integer not null,
      view text not null check (view in ('single', 'row')),
      source text not null check (source in ('file', 'clipboard', 'camera', 'stand_in')),
      attempt_id uuid,
      trainee_id uuid references people (id),
      before_id uuid,
      criteria jsonb not null,
      engine jsonb not null,
      engine_verdict text check (engine_verdict in ('pass', 'fail')),
      faults text[] not null default '{}',
      taken_at timestamptz not null,
      taken_by uuid not null references people (id),
      unique (class_id, id),
      foreign key (class_id, attempt_id) references attempts (class_id, id),
      foreign key (class_id, before_id) references faces (class_id, id)
    );
    create index faces_class on faces (class_id, taken_at desc);
    create index faces_attempt on faces (attempt_id) where attempt_id is not null;
    -- What the instructor made of it, each look a row: the last one counts, the others stay.
    create table face_gradings (
      id uuid primary key,
      face_id uuid not null references faces (id),
      seq integer not null check (seq > 0),
      review jsonb not null,
      trainee_said text check (trainee_said in ('pass', 'fail')),
      verdict text check (verdict in ('pass', 'fail')),
      by uuid not null references people (id),
      at timestamptz not null default now(),
      unique (face_id, seq)
    );
    create table call_series (
      id uuid primary key,
      class_id uuid not null references classes (id),
      label text not null check (length(trim(label)) between 1 and 60),
      miss_weight double precision not null check (miss_weight between 1 and 20),
      seconds_each integer check (seconds_each between 3 and 300),
      made_by uuid not null references people (id),
      made_at timestamptz not null default now(),
      unique (class_id, id)
    );
    create index call_series_class on call_series (class_id, made_at desc);
    create table call_items (
      series_id uuid not null references call_series (id),
      position integer not null check (position >= 0),
      face_id uuid not null references faces (id),
      -- The reference as it stood when the series was made.
      reference text not null check (reference in ('pass', 'fail')),
      faults text[] not null default '{}',
      primary key (series_id, position)
    );
    create table call_runs (
      id uuid primary key,
      series_id uuid not null references call_series (id),
      person_id uuid not null references people (id),
      started_at timestamptz not null,
      finished_at timestamptz,
      attempt_id uuid references attempts (id),
      unique (series_id, person_id)
    );
    create table call_answers (
      run_id uuid not null references call_runs (id),
      position integer not null,
      said text not null check (said in ('pass', 'fail')),
      marks jsonb not null default '[]',
      ms integer not null check (ms >= 0),
      at timestamptz not null default now(),
      primary key (run_id, position)
    );
    create trigger faces_append_only before update or delete on faces
      for each row execute function refuse_change();
    create trigger face_gradings_append_only before update or delete on face_gradings
      for each row execute function refuse_change();
    create trigger face_tables_append_only before update or delete on face_tables
      for each row execute function refuse_change();
    create trigger call_items_append_only before update or delete on call_items
      for each row execute function refuse_change();
    create trigger call_answers_append_only before update or delete on call_answers
      for each row execute function refuse_change();
  `);
}
