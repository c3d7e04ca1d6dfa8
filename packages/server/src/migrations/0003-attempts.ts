import type { Knex } from 'knex';

export const name = '0003-attempts';

export async function up(db: Knex): Promise<void> {
  await db.raw(`
    create table pieces (
      id uuid primary key,
      class_id uuid not null references classes (id),
      kind text not null check (kind in ('connector', 'cord', 'splice', 'link')),
      label text not null check (length(trim(label)) between 1 and 60),
      ends jsonb not null default '[]',
      parent_id uuid references pieces (id),
      made_by uuid references people (id),
      made_at timestamptz not null default now(),
      unique (class_id, id)
    );
    create table attempts (
      id uuid primary key,
      class_id uuid not null references classes (id),
      trainee_id uuid not null,
      method_version_id uuid not null,
      piece_id uuid not null,
      started_at timestamptz not null,
      clock_offset_ms integer not null default 0,
      device_id uuid not null,
      started_by uuid not null references people (id),
      state text not null default 'open' check (state in ('open', 'signed')),
      next_seq integer not null default 1 check (next_seq > 0),
      foreign key (class_id, trainee_id) references class_members (class_id, person_id),
      foreign key (class_id, method_version_id) references class_methods (class_id, method_version_id),
      foreign key (class_id, piece_id) references pieces (class_id, id),
      unique (class_id, id)
    );
    create index attempts_order on attempts (class_id, started_at, id);
    create index attempts_open on attempts (class_id) where state = 'open';
    create index attempts_trainee on attempts (trainee_id, started_at);
    create table attempt_things (
      attempt_id uuid not null,
      class_id uuid not null,
      thing_id uuid not null,
      primary key (attempt_id, thing_id),
      foreign key (class_id, attempt_id) references attempts (class_id, id),
      foreign key (class_id, thing_id) references things (class_id, id)
    );
    create index attempt_things_thing on attempt_things (thing_id, attempt_id);

    create table loss_references (
      id uuid primary key,
      class_id uuid not null references classes (id),
      instrument_id uuid not null,
      method text not null check (method in ('one_cord', 'two_cord', 'three_cord', 'single_cord')),
      wavelength_nm integer not null check (wavelength_nm between 600 and 1700),
      value_dbm text not null,
      shows_negative boolean not null,
      set_at timestamptz not null,
      set_by uuid not null references people (id),
      reread_dbm text,
      void_reason text check (void_reason in
        ('wrong_wavelength', 'wrong_core_size', 'launch_cord_taken_off', 'setup_broken')),
      foreign key (class_id, instrument_id) references things (class_id, id),
      unique (class_id, id)
    );
    create index loss_references_class on loss_references (class_id, set_at);

    create table entries (
      id uuid primary key,
      attempt_id uuid not null references attempts (id),
      seq integer not null check (seq > 0),
      kind text not null check (kind in ('value', 'not_seen', 'void', 'note', 'retract')),
      criterion_id text,
      part text not null default '',
      value jsonb,
      void_reason text,
      note_digest text,
      author_id uuid not null references people (id),
      capacity text not null check (capacity in ('instructor', 'witness', 'trainee')),
      device_id uuid not null,
      source text not null check (source in ('typed', 'timer', 'instrument', 'picture', 'computed')),
      at timestamptz not null,
      clock_offset_ms integer not null default 0,
      received_at timestamptz not null default now(),
      supersedes uuid[] not null default '{}',
      target_id uuid references entries (id),
      unique (attempt_id, seq),
      check ((kind = 'value') = (value is not null)),
      check ((kind = 'retract') = (target_id is not null)),
      check (kind in ('note', 'retract') or criterion_id is not null)
    );
    -- A note is personal text: it can be erased, and its salted digest in the entry stays.
    create table entry_notes (
      entry_id uuid primary key references entries (id),
      salt text not null,
      text text not null
    );
    -- One row a meter reading, for what hangs on instruments and references.
    create table readings (
      entry_id uuid primary key references entries (id),
      attempt_id uuid not null references attempts (id),
      reference_id uuid not null references loss_references (id),
      wavelength_nm integer not null,
      direction text not null default '',
      value_text text,
      unit text not null,
      no_light boolean not null default false,
      at timestamptz not null
    );
    create index readings_reference on readings (reference_id);
    -- Entries that came after the attempt was signed: kept as sent, offered for an amendment.
    create table unmerged_entries (
      id uuid primary key,
      attempt_id uuid not null references attempts (id),
      entry jsonb not null,
      author_id uuid not null references people (id),
      reason text not null,
      received_at timestamptz not null default now()
    );

    create function refuse_change() returns trigger language plpgsql as $$
    begin
      raise exception '% is append only', tg_table_name using errcode = 'CM002';
    end $$;
    create trigger entries_append_only before update or delete on entries
      for each row execute function refuse_change();
    create trigger entries_no_truncate before truncate on entries execute function refuse_change();
    create trigger readings_append_only before update or delete on readings
      for each row execute function refuse_change();
    create trigger unmerged_append_only before update or delete on unmerged_entries
      for each row execute function refuse_change();

    -- Entries only reach an open attempt, whatever the code above it thinks.
    create function refuse_entry_when_signed() returns trigger language plpgsql as $$
    begin
      if (select state from attempts where id = new.attempt_id) <> 'open' then
        raise exception 'the attempt is signed' using errcode = 'CM003';
      end if;
      return new;
    end $$;
    create trigger entries_open_only before insert on entries
      for each row execute function refuse_entry_when_signed();

    -- A signed attempt is not opened again, and never moves to another trainee, method or piece.
    create function refuse_attempt_change() returns trigger language plpgsql as $$
    begin
      if tg_op = 'DELETE' then
        raise exception 'attempts are never deleted' using errcode = 'CM002';
      end if;
      if (old.state = 'signed' and new.state <> 'signed') or new.trainee_id <> old.trainee_id
        or new.method_version_id <> old.method_version_id or new.piece_id <> old.piece_id
        or new.class_id <> old.class_id or new.started_at <> old.started_at
        or new.next_seq < old.next_seq then
        raise exception 'an attempt keeps what it was started with' using errcode = 'CM002';
      end if;
      return new;
    end $$;
    create trigger attempts_fixed before update or delete on attempts
      for each row execute function refuse_attempt_change();
  `);
}
