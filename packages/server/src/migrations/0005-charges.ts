import type { Knex } from 'knex';

export const name = '0005-charges';

/** A failure charged to its cause is an entry like any other: seen, superseded, retracted, kept. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    alter table entries drop constraint entries_kind_check;
    alter table entries add constraint entries_kind_check
      check (kind in ('value', 'not_seen', 'void', 'note', 'retract', 'charge'));
    alter table entries drop constraint entries_check;
    alter table entries add constraint entries_value_check
      check ((kind in ('value', 'charge')) = (value is not null));
  `);
}
