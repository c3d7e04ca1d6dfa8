import type { Knex } from 'knex';

export const name = '0025-bench-devices';

/** Devices that stay at a bench: whoever of the class has a PIN comes in by it there, and nowhere else. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    alter table people add column pin_hash text;
    alter table people add constraint people_leads_have_no_pin check (role <> 'lead' or pin_hash is null);
    create table bench_devices (
      id uuid primary key,
      class_id uuid not null references classes (id),
      label text not null check (length(trim(label)) between 1 and 60),
      -- Of what the device keeps as its cookie; the cookie itself is known to the device alone.
      token_digest text not null unique,
      made_by uuid not null references people (id),
      made_at timestamptz not null default now(),
      ended_at timestamptz
    );
    create index bench_devices_class on bench_devices (class_id) where ended_at is null;
  `);
}
