import type { Knex } from 'knex';

export const name = '0026-report-batches';

/** Reports of a whole class, set by a job: how far it is, and the file that it made, kept for a day. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    create table report_batches (
      id uuid primary key,
      class_id uuid not null references classes (id),
      state text not null check (state in ('running', 'done', 'cancelled', 'failed')),
      done integer not null default 0,
      total integer not null,
      zip bytea,
      by uuid not null references people (id),
      at timestamptz not null default now(),
      check ((state = 'done') = (zip is not null))
    );
    create unique index report_batches_one_at_a_time on report_batches (class_id, by) where state = 'running';
  `);
}
