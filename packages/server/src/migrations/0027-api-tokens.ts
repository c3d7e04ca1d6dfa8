import type { Knex } from 'knex';

export const name = '0027-api-tokens';

/** Tokens by which scripts do what their maker may, within what was chosen and until a day. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    create table api_tokens (
      id uuid primary key,
      person_id uuid not null references people (id),
      label text not null check (length(trim(label)) between 1 and 60),
      rights text[] not null check (cardinality(rights) > 0),
      token_digest text not null unique,
      made_at timestamptz not null default now(),
      until timestamptz not null,
      last_used timestamptz
    );
    create index api_tokens_person on api_tokens (person_id);
    -- The end of a token is told, whoever ended it: what it has under way ends with it.
    create function ring_for_token() returns trigger language plpgsql as $$
    begin
      perform pg_notify('clear_mark', 'token ' || old.id);
      return null;
    end $$;
    create trigger api_tokens_ring after delete on api_tokens for each row execute function ring_for_token();
  `);
}
