import type { Knex } from 'knex';

export const name = '0030-archives';

/**
 * Classes that come from elsewhere keep the versions of methods that their records name: beside the school's own of the same
 * number, and in use nowhere else. What they bring happened long ago, so that no other program is told of it.
 */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    alter table method_versions add column beside boolean not null default false;
    alter table method_versions drop constraint method_versions_method_id_version_key;
    create unique index method_versions_own on method_versions (method_id, version) where not beside;
    alter table method_versions add constraint method_versions_beside_are_retired
      check (not beside or state = 'retired');
    -- A class that is taken in rings once, at its end, and not for each of its pieces.
    create or replace function after_new_entries() returns trigger language plpgsql as $$
    declare
      changed record;
      quiet text := current_setting('clear_mark.taking_archive', true);
    begin
      for changed in
        select a.class_id, a.id, a.state from attempts a where a.id in (select attempt_id from fresh)
      loop
        if changed.state <> 'open' and (changed.state <> 'signed'
          or current_setting('clear_mark.amending', true) is distinct from changed.id::text) then
          raise exception 'the attempt is signed' using errcode = 'CM003';
        end if;
        if changed.class_id::text is distinct from quiet then
          perform pg_notify('clear_mark', changed.class_id || ' ' || changed.id);
        end if;
      end loop;
      return null;
    end $$;
    create or replace function ring_for_attempts() returns trigger language plpgsql as $$
    declare
      changed record;
      quiet text := current_setting('clear_mark.taking_archive', true);
    begin
      for changed in select distinct class_id, id from fresh where class_id::text is distinct from quiet loop
        perform pg_notify('clear_mark', changed.class_id || ' ' || changed.id || ' started');
      end loop;
      return null;
    end $$;
    create or replace function ring_for_state() returns trigger language plpgsql as $$
    begin
      if new.class_id::text is distinct from current_setting('clear_mark.taking_archive', true) then
        perform pg_notify('clear_mark', new.class_id || ' ' || new.id || ' ' || new.state);
      end if;
      return null;
    end $$;
    create or replace function tell_receivers(what text, of_class uuid, about uuid, of_revision integer) returns void
    language plpgsql as $$
    begin
      if current_setting('clear_mark.taking_archive', true) = of_class::text then return; end if;
      insert into deliveries (receiver_id, event, class_id, subject_id, revision)
        select id, what, of_class, about, of_revision from receivers where what = any (events) and not paused;
      if found then perform pg_notify('clear_mark', 'delivery new'); end if;
    end $$;
  `);
}
