import type { Knex } from 'knex';

export const name = '0016-loss-tests';

/** The leg and the light that a reference was set with, and the dated checks of test cords. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    alter table loss_references add column leg smallint check (leg between 1 and 144);
    alter table loss_references add column light text check (light in ('laser', 'led', 'transceiver'));
    create table cord_checks (
      id uuid primary key,
      class_id uuid not null references classes,
      thing_id uuid not null references things,
      checked_on date not null,
      due_on date not null,
      loss_db text not null,
      limit_db text not null,
      by uuid not null references people,
      at timestamptz not null,
      check (due_on >= checked_on)
    );
    create index cord_checks_newest on cord_checks (thing_id, at desc);
  `);
}
