import type { Knex } from 'knex';

export const name = '0034-courses';

/** What a class says for itself of its course: pieces by method, what they take, stock items of its own; trays of ovens. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    alter table thing_settings add column trays integer check (trays > 0);
    create table stock_items (
      class_id uuid not null references classes (id),
      id text not null check (length(id) between 1 and 60),
      label text not null check (length(label) between 1 and 60),
      kind text not null check (kind in ('film', 'batch', 'supply')),
      unit text not null check (length(unit) between 1 and 30),
      pack integer not null check (pack > 0),
      opened_days integer check (opened_days > 0),
      primary key (class_id, id)
    );
    create table course_methods (
      class_id uuid not null references classes (id),
      method_id text not null,
      pieces integer check (pieces >= 0),
      work jsonb,
      primary key (class_id, method_id)
    );
  `);
}
