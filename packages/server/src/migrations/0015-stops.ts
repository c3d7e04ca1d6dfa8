import type { Knex } from 'knex';

export const name = '0015-stops';

/** A piece stopped for safety is an entry like any other: seen, retracted, kept. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    alter table entries drop constraint entries_kind_check;
    alter table entries add constraint entries_kind_check check (kind in
      ('value', 'not_seen', 'void', 'note', 'retract', 'charge', 'dismiss', 'hand', 'timer', 'stop'));
    alter table entries drop constraint entries_value_check;
    alter table entries add constraint entries_value_check
      check ((kind in ('value', 'charge', 'dismiss', 'hand', 'timer', 'stop')) = (value is not null));
  `);
}
