import type { Knex } from 'knex';

export const name = '0002-classes';

export async function up(db: Knex): Promise<void> {
  await db.raw(`
    create table classes (
      id uuid primary key,
      name text not null check (length(trim(name)) between 1 and 80),
      place text not null,
      time_zone text not null,
      starts_on date not null,
      ends_on date not null check (ends_on >= starts_on),
      policy jsonb not null,
      made_at timestamptz not null default now()
    );
    create table class_members (
      class_id uuid not null references classes (id),
      person_id uuid not null references people (id),
      role text not null check (role in ('instructor', 'trainee')),
      joined_at timestamptz not null default now(),
      primary key (class_id, person_id)
    );
    create index class_members_person on class_members (person_id);
    create table things (
      id uuid primary key,
      class_id uuid not null references classes (id),
      kind text not null check (kind in
        ('bench', 'cleaver', 'splicer', 'scope', 'film', 'batch', 'cord', 'instrument')),
      label text not null check (length(trim(label)) between 1 and 60),
      retired_at timestamptz,
      unique (class_id, kind, label),
      unique (class_id, id)
    );
    create table method_versions (
      id uuid primary key,
      method_id text not null,
      version integer not null check (version > 0),
      state text not null check (state in ('draft', 'in_force', 'retired')),
      title text not null,
      sheet jsonb not null,
      digest text not null,
      made_at timestamptz not null default now(),
      unique (method_id, version)
    );
    create table class_methods (
      class_id uuid not null references classes (id),
      method_version_id uuid not null references method_versions (id),
      in_use boolean not null default true,
      primary key (class_id, method_version_id)
    );

    -- A version in force never changes: only its state may still go to retired.
    create function refuse_sheet_change() returns trigger language plpgsql as $$
    begin
      if tg_op = 'DELETE' then
        if old.state = 'draft' then return old; end if;
        raise exception 'a method version that was in force is never deleted' using errcode = 'CM001';
      end if;
      if old.state <> 'draft' and (
        new.sheet is distinct from old.sheet or new.digest <> old.digest or new.method_id <> old.method_id
        or new.version <> old.version or new.title <> old.title or new.state = 'draft'
        or (old.state = 'retired' and new.state <> 'retired')
      ) then
        raise exception 'a method version in force never changes' using errcode = 'CM001';
      end if;
      return new;
    end $$;
    create trigger method_versions_fixed before update or delete on method_versions
      for each row execute function refuse_sheet_change();
  `);
}
