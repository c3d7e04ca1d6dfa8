import type { Knex } from 'knex';

export const name = '0022-amendments';

/**
 * A signed attempt takes entries in one way only: within the transaction that signs its next revision, which says so. What
 * came late is looked at once, taken or left out. What a revision rests on may change again after the next one.
 */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    create or replace function after_new_entries() returns trigger language plpgsql as $$
    declare changed record;
    begin
      for changed in
        select a.class_id, a.id, a.state from attempts a where a.id in (select attempt_id from fresh)
      loop
        if changed.state <> 'open' and (changed.state <> 'signed'
          or current_setting('clear_mark.amending', true) is distinct from changed.id::text) then
          raise exception 'the attempt is signed' using errcode = 'CM003';
        end if;
        perform pg_notify('clear_mark', changed.class_id || ' ' || changed.id);
      end loop;
      return null;
    end $$;
    create table late_decisions (
      entry_id uuid primary key references unmerged_entries (id),
      attempt_id uuid not null references attempts (id),
      revision integer not null,
      taken boolean not null
    );
    create index late_decisions_attempt on late_decisions (attempt_id);
    create trigger late_decisions_append_only before update or delete on late_decisions
      for each row execute function refuse_change();
    create index unmerged_entries_attempt on unmerged_entries (attempt_id);
    alter table amendment_notices drop constraint amendment_notices_attempt_id_cause_subject_id_key;
    alter table amendment_notices add constraint amendment_notices_once unique (attempt_id, revision, cause, subject_id);
    -- A further revision of a signed attempt is heard of by its class.
    create function ring_for_revision() returns trigger language plpgsql as $$
    begin
      perform pg_notify('clear_mark', new.class_id || ' ' || new.attempt_id || ' signed');
      return null;
    end $$;
    create trigger signed_revisions_ring after insert on signed_revisions
      for each row when (new.revision > 1) execute function ring_for_revision();
  `);
}
