import type { Knex } from 'knex';

export const name = '0031-stored-pictures';

/**
 * The bytes of a picture lie here or in a store beside the database, never in neither. What leaves the table or gets other bytes is
 * taken out of the store afterwards: a list says what is still to go.
 */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    alter table pictures alter column bytes drop not null;
    alter table pictures add column stored_at timestamptz, add column width integer, add column height integer;
    alter table pictures add constraint pictures_are_somewhere check ((bytes is null) = (stored_at is not null)) not valid;
    alter table pictures validate constraint pictures_are_somewhere;
    create index pictures_to_move on pictures (received_at) where stored_at is null and erased_at is null;
    create table picture_removals (
      sha256 text primary key,
      at timestamptz not null default now()
    );
    create function remove_stored_picture() returns trigger language plpgsql as $$
    begin
      insert into picture_removals (sha256) values (old.sha256) on conflict do nothing;
      return null;
    end $$;
    create trigger pictures_dropped after delete on pictures
      for each row when (old.stored_at is not null) execute function remove_stored_picture();
    create trigger pictures_replaced after update on pictures
      for each row when (old.stored_at is not null and new.stored_at is null) execute function remove_stored_picture();
  `);
}
