import type { Knex } from 'knex';

export const name = '0001-people';

export async function up(db: Knex): Promise<void> {
  await db.raw(`
    create table people (
      id uuid primary key,
      login text not null unique check (login = lower(login) and length(login) between 2 and 40),
      name text not null check (length(trim(name)) between 1 and 80),
      role text not null check (role in ('lead', 'instructor', 'trainee')),
      password_hash text,
      created_at timestamptz not null default now(),
      disabled_at timestamptz
    );
    create table session (
      sid text primary key,
      sess json not null,
      expire timestamp(6) not null
    );
    create index session_expire on session (expire);
    create table server_secret (
      only_one boolean primary key default true check (only_one),
      secret text not null
    );
    create table setup_code (
      only_one boolean primary key default true check (only_one),
      code_hash text not null,
      made_at timestamptz not null default now()
    );
  `);
}
