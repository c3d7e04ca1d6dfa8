import type { Knex } from 'knex';

export const name = '0021-accounts';

/**
 * Accounts that their people make their own by a code, second factors, members who left, and the trail of what was done to
 * accounts, policies, methods and exports.
 */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    -- A code that was given out for an account: its digest alone. The codes are long, so that a plain digest is enough.
    create table account_codes (
      person_id uuid primary key references people (id),
      code_digest text not null unique,
      made_at timestamptz not null default now(),
      until timestamptz not null
    );
    alter table people add column last_sign_in timestamptz;

    create table second_factors (
      person_id uuid primary key references people (id),
      secret text not null,
      -- Null until a code of it was given once.
      confirmed_at timestamptz,
      begun_at timestamptz not null default now(),
      -- The last step of time whose code was taken: no code is taken twice.
      last_step bigint not null default 0,
      -- Digests of the recovery codes that are left.
      recovery text[] not null default '{}'
    );
    create table school_settings (
      only_one boolean primary key default true check (only_one),
      leads_need_second_factor boolean not null default false
    );
    insert into school_settings default values;

    alter table class_members add column left_at timestamptz;
    create trigger class_members_ring_left after update on class_members
      for each row when (old.left_at is distinct from new.left_at) execute function ring_for_class();

    create table audit_events (
      seq bigint generated always as identity primary key,
      at timestamptz not null default now(),
      kind text not null,
      by_id uuid references people (id),
      person_id uuid references people (id),
      class_id uuid references classes (id),
      detail text not null default '' check (length(detail) <= 200)
    );
    create index audit_events_kind on audit_events (kind, seq desc);
    create index audit_events_by on audit_events (by_id, seq desc);
    create index audit_events_person on audit_events (person_id, seq desc);
    create trigger audit_events_append_only before update or delete on audit_events
      for each row execute function refuse_change();
    create trigger audit_events_no_truncate before truncate on audit_events execute function refuse_change();
    -- What processes remember of a person ends when it changed.
    create function ring_for_person() returns trigger language plpgsql as $$
    begin
      perform pg_notify('clear_mark', 'person ' || new.id);
      return null;
    end $$;
    create trigger people_ring after update on people for each row
      when (old.name <> new.name or old.role <> new.role or old.disabled_at is distinct from new.disabled_at)
      execute function ring_for_person();
    create function ring_for_second_factor() returns trigger language plpgsql as $$
    begin
      perform pg_notify('clear_mark', 'person all');
      return null;
    end $$;
    create trigger second_factors_ring after delete on second_factors
      for each row execute function ring_for_second_factor();
    create trigger school_settings_ring after update on school_settings
      for each row execute function ring_for_second_factor();
    create index session_person on session ((sess ->> 'personId'));
  `);
}
