import type { Knex } from 'knex';

export const name = '0008-measuring';

/**
 * Links of a class and the one that an attempt is made on, as it was described when it began; instruments that are
 * reached over the network, and who takes their readings; changes of a class ring its bell too.
 */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    alter table loss_references drop constraint loss_references_method_check;
    alter table loss_references add constraint loss_references_method_check check (method in
      ('one_cord', 'two_cord', 'three_cord', 'single_cord', 'breakout', 'large_area'));

    create table links (
      id uuid primary key,
      class_id uuid not null references classes (id),
      label text not null check (length(trim(label)) between 1 and 60),
      plan jsonb not null,
      reference_method text not null,
      settings jsonb not null,
      retired_at timestamptz,
      made_by uuid not null references people (id),
      made_at timestamptz not null default now(),
      unique (class_id, label)
    );

    alter table attempts add column link jsonb;
    create or replace function refuse_attempt_change() returns trigger language plpgsql as $$
    begin
      if tg_op = 'DELETE' then
        raise exception 'attempts are never deleted' using errcode = 'CM002';
      end if;
      if (old.state = 'signed' and new.state <> 'signed') or new.trainee_id <> old.trainee_id
        or new.method_version_id <> old.method_version_id or new.piece_id <> old.piece_id
        or new.class_id <> old.class_id or new.started_at <> old.started_at
        or new.schools <> old.schools or new.link is distinct from old.link
        or new.next_seq < old.next_seq then
        raise exception 'an attempt keeps what it was started with' using errcode = 'CM002';
      end if;
      return new;
    end $$;

    create table instruments (
      thing_id uuid primary key,
      class_id uuid not null,
      kind text not null check (kind in ('power_meter', 'source', 'splicer', 'port_light')),
      host text not null,
      port integer not null check (port between 1 and 65535),
      readings_per_second integer not null check (readings_per_second between 1 and 20),
      calibrated_on date,
      calibration_due_on date,
      foreign key (class_id, thing_id) references things (class_id, id),
      check (calibration_due_on >= calibrated_on)
    );
    create index instruments_class on instruments (class_id);
    -- One device at a time takes readings of an instrument. A claim that is not renewed runs out.
    create table instrument_claims (
      thing_id uuid primary key references instruments (thing_id) on delete cascade,
      attempt_id uuid not null references attempts (id),
      person_id uuid not null references people (id),
      device_id uuid not null,
      until timestamptz not null
    );
    alter table readings add column instrument_id uuid references things (id);
    alter table readings add column taken_at timestamptz;
    alter table readings add column calibrated_on date;

    create function ring_for_class() returns trigger language plpgsql as $$
    begin
      perform pg_notify('clear_mark', coalesce(new.class_id, old.class_id) || ' class');
      return null;
    end $$;
    create function ring_for_claim() returns trigger language plpgsql as $$
    declare changed uuid;
    begin
      changed := coalesce(new.thing_id, old.thing_id);
      perform pg_notify('clear_mark', i.class_id || ' claim') from instruments i where i.thing_id = changed;
      return null;
    end $$;
    create trigger links_ring after insert or update on links for each row execute function ring_for_class();
    create trigger things_ring after insert or update on things for each row execute function ring_for_class();
    create trigger class_methods_ring after insert or update on class_methods
      for each row execute function ring_for_class();
    create trigger class_members_ring after insert or delete on class_members
      for each row execute function ring_for_class();
    create trigger instruments_ring after insert or update or delete on instruments
      for each row execute function ring_for_class();
    create trigger instrument_claims_ring after insert or update or delete on instrument_claims
      for each row execute function ring_for_claim();
  `);
}
