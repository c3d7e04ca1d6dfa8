import type { Knex } from 'knex';

export const name = '0033-days';

/** Ovens and supplies as equipment, what is set of equipment and used of it, planned days and what goes into the ovens. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    alter table things drop constraint things_kind_check;
    alter table things add constraint things_kind_check check (kind in
      ('bench', 'cleaver', 'splicer', 'scope', 'film', 'batch', 'cord', 'instrument', 'oven', 'supply')
      or (kind like 'own:_%' and length(kind) <= 44)) not valid;
    alter table things validate constraint things_kind_check;

    create table thing_settings (
      thing_id uuid primary key,
      class_id uuid not null,
      item text check (length(item) between 1 and 60),
      uses integer check (uses > 0),
      positions integer check (positions > 0),
      hanging integer check (hanging >= 0),
      flat integer check (flat >= 0),
      rest_minutes integer check (rest_minutes >= 0),
      expires_at timestamptz,
      opened_days integer check (opened_days > 0),
      due_on date,
      foreign key (class_id, thing_id) references things (class_id, id)
    );
    create index thing_settings_class on thing_settings (class_id);
    create table thing_events (
      id uuid primary key,
      class_id uuid not null,
      thing_id uuid not null,
      act text not null check (act in ('opened', 'serviced', 'corrected')),
      -- What a correction adds to the uses that were counted.
      amount integer not null default 0,
      -- What was left after it, as it was said; null for other acts.
      left_over integer check (left_over >= 0),
      reason text not null check (length(reason) <= 200),
      by uuid not null references people (id),
      at timestamptz not null,
      foreign key (class_id, thing_id) references things (class_id, id)
    );
    create index thing_events_thing on thing_events (thing_id, at);
    create trigger thing_events_append_only before update or delete on thing_events
      for each row execute function refuse_change();
    -- What an attempt took, counted when it began.
    create table attempt_uses (
      attempt_id uuid not null,
      class_id uuid not null,
      thing_id uuid not null,
      uses integer not null check (uses > 0),
      primary key (attempt_id, thing_id),
      foreign key (class_id, attempt_id) references attempts (class_id, id),
      foreign key (class_id, thing_id) references things (class_id, id)
    );
    create index attempt_uses_thing on attempt_uses (thing_id, attempt_id);
    create trigger attempt_uses_append_only before update or delete on attempt_uses
      for each row execute function refuse_change();

    create table class_days (
      class_id uuid not null references classes (id),
      day date not null,
      version integer not null check (version > 0),
      content jsonb not null,
      changed_by uuid not null references people (id),
      changed_at timestamptz not null,
      primary key (class_id, day)
    );
    create table day_loads (
      id uuid primary key,
      class_id uuid not null,
      day date not null,
      thing_id uuid not null,
      schedule text not null check (length(schedule) <= 60),
      members jsonb not null,
      started_at timestamptz not null,
      ends_at timestamptz not null check (ends_at > started_at),
      taken_out_at timestamptz,
      by uuid not null references people (id),
      foreign key (class_id, thing_id) references things (class_id, id)
    );
    create index day_loads_day on day_loads (class_id, day);
    create function day_changed() returns trigger language plpgsql as $$
    begin
      perform pg_notify('clear_mark', new.class_id || ' day');
      return new;
    end $$;
    create trigger class_days_tell after insert or update on class_days
      for each row execute function day_changed();
    create trigger day_loads_tell after insert or update on day_loads
      for each row execute function day_changed();
  `);
}
