import type { Knex } from 'knex';

export const name = '0019-school-tables';

/**
 * What a school keeps of its own beside its methods: loss tables, drills, policies. Each save is a further version, and none
 * ever changes. Equipment may be of a kind that the school named itself.
 */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    create table school_tables (
      id uuid not null,
      version integer not null check (version > 0),
      kind text not null check (kind in ('loss', 'drill', 'policy')),
      title text not null check (length(trim(title)) between 1 and 80),
      content jsonb not null,
      retired boolean not null,
      edited_by uuid not null references people (id),
      edited_at timestamptz not null,
      primary key (id, version)
    );
    create trigger school_tables_append_only before update or delete on school_tables
      for each row execute function refuse_change();
    alter table things drop constraint things_kind_check;
    alter table things add constraint things_kind_check check (kind in
      ('bench', 'cleaver', 'splicer', 'scope', 'film', 'batch', 'cord', 'instrument')
      or (kind like 'own:_%' and length(kind) <= 44));
  `);
}
