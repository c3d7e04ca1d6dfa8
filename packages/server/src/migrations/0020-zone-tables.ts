import type { Knex } from 'knex';

export const name = '0020-zone-tables';

/** Tables of zones, kept by the school for all its classes. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    alter table school_tables drop constraint school_tables_kind_check;
    alter table school_tables add constraint school_tables_kind_check
      check (kind in ('loss', 'drill', 'policy', 'zones'));
  `);
}
