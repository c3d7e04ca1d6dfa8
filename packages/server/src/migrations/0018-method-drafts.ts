import type { Knex } from 'knex';

export const name = '0018-method-drafts';

/**
 * Drafts of a school's own methods, with what they were at each saving: what two people saved at once is merged by what both
 * began from. A draft is no version: it becomes one when it is published.
 */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    create table method_drafts (
      id uuid primary key,
      method_id text not null,
      version integer not null check (version > 0),
      based_on uuid references method_versions (id),
      revision integer not null check (revision > 0),
      sheet jsonb not null,
      edited_by uuid not null references people (id),
      edited_at timestamptz not null,
      published_as uuid references method_versions (id),
      closed_at timestamptz
    );
    create index method_drafts_open on method_drafts (edited_at desc) where closed_at is null;
    create table method_draft_revisions (
      draft_id uuid not null references method_drafts (id),
      revision integer not null,
      sheet jsonb not null,
      edited_by uuid not null references people (id),
      edited_at timestamptz not null,
      primary key (draft_id, revision)
    );
  `);
}
