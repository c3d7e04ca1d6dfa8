import type { Knex } from 'knex';

export const name = '0011-safekeeping';

/**
 * What keeps records from being lost, forged or moved: claimed times beside bounded ones, references and their changes
 * append only, what a signed revision rests on, confirmations of what others delivered, withdrawn attempts, uploads of
 * pictures by class and person, tries to sign in, spans of claims of instruments, daily heads of the chains, backups
 * and checks that were made.
 */
export async function up(db: Knex): Promise<void> {
  await db.raw(PEOPLE);
  await db.raw(ATTEMPTS);
  await db.raw(REFERENCES);
  await db.raw(SIGNED);
  await db.raw(PICTURES);
  await db.raw(INSTRUMENTS);
  await db.raw(KEEPING);
}

const PEOPLE = `
  -- Locks what this person leaves unsent on a device; given out to a session of the same person only.
  alter table people add column device_key text not null
    default encode(sha256((gen_random_uuid()::text || gen_random_uuid()::text)::bytea), 'hex');
  -- Tries to sign in that failed, by account and by address: for all server processes alike.
  create table sign_in_tries (
    key text primary key,
    failures integer not null,
    last_at timestamptz not null,
    locked_until timestamptz
  );
  create index sign_in_tries_last on sign_in_tries (last_at);
  -- The end of a session is told, whoever ended it: its open streams end with it, and nobody remembers it longer.
  create function ring_for_session() returns trigger language plpgsql as $$
  begin
    perform pg_notify('clear_mark', 'session ' || encode(sha256(convert_to(old.sid, 'UTF8')), 'hex'));
    return null;
  end $$;
  create trigger session_ring after delete on session for each row execute function ring_for_session();
`;

const ATTEMPTS = `
  -- What a device claimed, where its time was outside what can be: the time beside it is the bounded one.
  alter table entries add column claimed_at timestamptz;
  alter table attempts add column claimed_started_at timestamptz;
  -- Those that are there came at another time than now.
  alter table attempts add column received_at timestamptz not null default '2000-01-01T00:00:00Z';
  alter table attempts alter column received_at set default now();
  alter table faces add column claimed_taken_at timestamptz;
  create index attempts_received on attempts (started_by, received_at);

  -- An author who was not there when another handed the entry in has seen it since and stands by it.
  create table entry_confirmations (
    entry_id uuid primary key references entries (id),
    by uuid not null references people (id),
    at timestamptz not null
  );
  create trigger entry_confirmations_append_only before update or delete on entry_confirmations
    for each row execute function refuse_change();
  create function ring_for_confirmation() returns trigger language plpgsql as $$
  begin
    perform pg_notify('clear_mark', a.class_id || ' ' || a.id || ' again')
      from entries e join attempts a on a.id = e.attempt_id where e.id = new.entry_id;
    return null;
  end $$;
  create trigger entry_confirmations_ring after insert on entry_confirmations
    for each row execute function ring_for_confirmation();

  -- An open attempt that nothing was entered for can be withdrawn: it stays, and counts nowhere.
  alter table attempts drop constraint attempts_state_check;
  alter table attempts add constraint attempts_state_check check (state in ('open', 'signed', 'withdrawn'));
  alter table attempts add column withdrawn_by uuid references people (id);
  alter table attempts add column withdrawn_at timestamptz;
  create or replace function refuse_attempt_change() returns trigger language plpgsql as $$
  begin
    if tg_op = 'DELETE' then
      raise exception 'attempts are never deleted' using errcode = 'CM002';
    end if;
    if (old.state <> 'open' and new.state <> old.state) or new.trainee_id <> old.trainee_id
      or new.method_version_id <> old.method_version_id or new.piece_id <> old.piece_id
      or new.class_id <> old.class_id or new.started_at <> old.started_at
      or new.claimed_started_at is distinct from old.claimed_started_at
      or new.schools <> old.schools or new.link is distinct from old.link
      or new.next_seq < old.next_seq then
      raise exception 'an attempt keeps what it was started with' using errcode = 'CM002';
    end if;
    if new.state = 'withdrawn' and old.state = 'open' and new.next_seq > 1 then
      raise exception 'an attempt with entries is not withdrawn' using errcode = 'CM002';
    end if;
    return new;
  end $$;
  -- The count of entries moves with every entry, which rings by itself.
  drop trigger attempts_ring_change on attempts;
  create function ring_for_state() returns trigger language plpgsql as $$
  begin
    perform pg_notify('clear_mark', new.class_id || ' ' || new.id || ' ' || new.state);
    return null;
  end $$;
  create trigger attempts_ring_change after update on attempts
    for each row when (old.state is distinct from new.state) execute function ring_for_state();
  create or replace function ring_for_attempts() returns trigger language plpgsql as $$
  declare changed record;
  begin
    for changed in select distinct class_id, id from fresh loop
      perform pg_notify('clear_mark', changed.class_id || ' ' || changed.id || ' started');
    end loop;
    return null;
  end $$;
`;

const REFERENCES = `
  alter table loss_references add column claimed_set_at timestamptz;
  create table reference_changes (
    id uuid primary key,
    reference_id uuid not null references loss_references (id),
    seq integer not null check (seq > 0),
    change text not null check (change in ('reread', 'void')),
    value_dbm text check ((change = 'reread') = (value_dbm is not null)),
    void_reason text check ((change = 'void') = (void_reason is not null)),
    note text not null default '',
    by uuid not null references people (id),
    at timestamptz not null,
    unique (reference_id, seq)
  );
  insert into reference_changes (id, reference_id, seq, change, value_dbm, note, by, at)
    select gen_random_uuid(), id, 1, 'reread', reread_dbm, 'kept from an earlier version', set_by, set_at
      from loss_references where reread_dbm is not null;
  insert into reference_changes (id, reference_id, seq, change, void_reason, note, by, at)
    select gen_random_uuid(), id, 2, 'void', void_reason, 'kept from an earlier version', set_by, set_at
      from loss_references where void_reason is not null;
  alter table loss_references drop column reread_dbm;
  alter table loss_references drop column void_reason;
  drop trigger references_ring_change on loss_references;
  create trigger loss_references_append_only before update or delete on loss_references
    for each row execute function refuse_change();
  create trigger reference_changes_append_only before update or delete on reference_changes
    for each row execute function refuse_change();
  create function ring_for_reference_change() returns trigger language plpgsql as $$
  begin
    perform pg_notify('clear_mark', r.class_id || ' references')
      from loss_references r where r.id = new.reference_id;
    return null;
  end $$;
  create trigger reference_changes_ring after insert on reference_changes
    for each row execute function ring_for_reference_change();
`;

const SIGNED = `
  -- From record version 2 on a revision names the last entry instead of all, and the hash covers who delivered each
  -- entry, claimed times, and the evidence: references with their changes, pictures with their newest grading.
  alter table signed_revisions add column record_version integer not null default 1;
  alter table signed_revisions add column last_seq integer;
  alter table signed_revisions add column evidence jsonb;
  alter table signed_revisions alter column entry_ids drop not null;
  alter table signed_revisions add constraint signed_revisions_names_entries
    check (case record_version when 1 then entry_ids is not null else last_seq is not null and evidence is not null end);

  -- What a signed revision rests on was changed afterwards.
  create table amendment_notices (
    id uuid primary key,
    attempt_id uuid not null references attempts (id),
    class_id uuid not null references classes (id),
    revision integer not null,
    cause text not null check (cause in ('face_graded', 'reference_reread', 'reference_void', 'entry_late')),
    subject_id uuid not null,
    by uuid not null references people (id),
    at timestamptz not null,
    unique (attempt_id, cause, subject_id)
  );
  create index amendment_notices_class on amendment_notices (class_id, at);
  create trigger amendment_notices_append_only before update or delete on amendment_notices
    for each row execute function refuse_change();
`;

const PICTURES = `
  -- Who sent which picture to which class: a digest alone gives nothing away.
  create table picture_uploads (
    class_id uuid not null references classes (id),
    sha256 text not null references pictures (sha256) on delete cascade,
    by uuid not null references people (id),
    at timestamptz not null default now(),
    bytes integer not null,
    primary key (class_id, sha256)
  );
  create index picture_uploads_by on picture_uploads (by, at);
  insert into picture_uploads (class_id, sha256, by, bytes)
    select distinct on (f.class_id, f.sha256) f.class_id, f.sha256, f.taken_by, length(p.bytes)
      from faces f join pictures p on p.sha256 = f.sha256 order by f.class_id, f.sha256, f.taken_at;
`;

const INSTRUMENTS = `
  -- Which sheet had an instrument when: a value from it is taken for that sheet alone.
  create table instrument_spans (
    thing_id uuid not null references instruments (thing_id) on delete cascade,
    attempt_id uuid not null references attempts (id),
    person_id uuid not null references people (id),
    device_id uuid not null,
    from_at timestamptz not null,
    until timestamptz not null,
    primary key (thing_id, from_at)
  );
  create index instrument_spans_attempt on instrument_spans (attempt_id, thing_id);
`;

const KEEPING = `
  -- The head of every chain that grew, once a day, signed with a key that is not in the database.
  create table daily_heads (
    day date not null,
    class_id uuid not null references classes (id),
    class_seq integer not null,
    hash text not null,
    signature text,
    made_at timestamptz not null,
    primary key (day, class_id)
  );
  create trigger daily_heads_append_only before update or delete on daily_heads
    for each row execute function refuse_change();
  create table backups (
    id uuid primary key,
    at timestamptz not null,
    file text not null,
    bytes bigint not null,
    sha256 text,
    failed text
  );
  create index backups_at on backups (at desc);
  create table checks (
    id uuid primary key,
    at timestamptz not null,
    by uuid references people (id),
    ms integer not null,
    revisions integer not null,
    findings jsonb not null
  );
  create index checks_at on checks (at desc);
`;
