import type { Knex } from 'knex';

export const name = '0006-schools-and-parts';

/**
 * The schools that a class chose, and those that each attempt was started by; readings and losses of many fibers in
 * both directions; a dismissed suggestion is an entry like any other.
 */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    alter table classes add column schools jsonb not null default '{}';
    alter table attempts add column schools jsonb not null default '{}';
    create or replace function refuse_attempt_change() returns trigger language plpgsql as $$
    begin
      if tg_op = 'DELETE' then
        raise exception 'attempts are never deleted' using errcode = 'CM002';
      end if;
      if (old.state = 'signed' and new.state <> 'signed') or new.trainee_id <> old.trainee_id
        or new.method_version_id <> old.method_version_id or new.piece_id <> old.piece_id
        or new.class_id <> old.class_id or new.started_at <> old.started_at
        or new.schools <> old.schools or new.next_seq < old.next_seq then
        raise exception 'an attempt keeps what it was started with' using errcode = 'CM002';
      end if;
      return new;
    end $$;

    alter table readings add column fiber integer check (fiber > 0);

    alter table outcome_losses add column fiber integer not null default 0 check (fiber >= 0);
    alter table outcome_losses drop constraint outcome_losses_pkey;
    alter table outcome_losses
      add primary key (attempt_id, criterion_id, wavelength_nm, direction, fiber);

    alter table entries drop constraint entries_kind_check;
    alter table entries add constraint entries_kind_check
      check (kind in ('value', 'not_seen', 'void', 'note', 'retract', 'charge', 'dismiss'));
    alter table entries drop constraint entries_value_check;
    alter table entries add constraint entries_value_check
      check ((kind in ('value', 'charge', 'dismiss')) = (value is not null));
    create index entries_suggestions on entries (attempt_id) where kind in ('charge', 'dismiss');
  `);
}
