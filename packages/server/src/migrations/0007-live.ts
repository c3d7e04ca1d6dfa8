import type { Knex } from 'knex';

export const name = '0007-live';

/**
 * Raised hands and running timers are entries; whoever hands another's queue in stands beside the author; and every
 * change of an attempt or a reference rings the bell of its class. Each bell rings once a transaction.
 */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    alter table entries drop constraint entries_kind_check;
    alter table entries add constraint entries_kind_check check (kind in
      ('value', 'not_seen', 'void', 'note', 'retract', 'charge', 'dismiss', 'hand', 'timer'));
    alter table entries drop constraint entries_value_check;
    alter table entries add constraint entries_value_check
      check ((kind in ('value', 'charge', 'dismiss', 'hand', 'timer')) = (value is not null));
    alter table entries add column delivered_by uuid references people (id);

    create function ring_for_entries() returns trigger language plpgsql as $$
    declare changed record;
    begin
      for changed in
        select distinct a.class_id, a.id from fresh f join attempts a on a.id = f.attempt_id
      loop
        perform pg_notify('clear_mark', changed.class_id || ' ' || changed.id);
      end loop;
      return null;
    end $$;
    create trigger entries_ring after insert on entries
      referencing new table as fresh for each statement execute function ring_for_entries();

    create function ring_for_attempts() returns trigger language plpgsql as $$
    declare changed record;
    begin
      for changed in select distinct class_id, id from fresh loop
        perform pg_notify('clear_mark', changed.class_id || ' ' || changed.id);
      end loop;
      return null;
    end $$;
    create trigger attempts_ring_new after insert on attempts
      referencing new table as fresh for each statement execute function ring_for_attempts();
    create trigger attempts_ring_change after update on attempts
      referencing new table as fresh for each statement execute function ring_for_attempts();

    create function ring_for_references() returns trigger language plpgsql as $$
    declare changed record;
    begin
      for changed in select distinct class_id from fresh loop
        perform pg_notify('clear_mark', changed.class_id || ' references');
      end loop;
      return null;
    end $$;
    create trigger references_ring_new after insert on loss_references
      referencing new table as fresh for each statement execute function ring_for_references();
    create trigger references_ring_change after update on loss_references
      referencing new table as fresh for each statement execute function ring_for_references();
  `);
}
