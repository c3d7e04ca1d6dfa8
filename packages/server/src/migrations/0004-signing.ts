import type { Knex } from 'knex';

export const name = '0004-signing';

export async function up(db: Knex): Promise<void> {
  await db.raw(`
    create table class_chains (
      class_id uuid primary key references classes (id),
      next_seq integer not null default 1,
      last_hash text
    );
    create table signed_revisions (
      id uuid primary key,
      attempt_id uuid not null references attempts (id),
      class_id uuid not null references classes (id),
      revision integer not null check (revision > 0),
      kind text not null check (kind in ('signed', 'signed_incomplete', 'void', 'amended')),
      class_seq integer not null,
      signed_by uuid not null references people (id),
      signed_at timestamptz not null,
      entry_ids uuid[] not null,
      entries_digest text not null,
      scoring_version integer not null,
      outcome jsonb not null,
      reason text,
      reason_salt text,
      reason_digest text,
      previous_hash text,
      hash text not null,
      unique (attempt_id, revision),
      unique (class_id, class_seq),
      check (kind not in ('signed_incomplete', 'void', 'amended') or reason_digest is not null)
    );
    -- Only the personal text of a reason may be erased; its digest stays in the chain.
    create function refuse_revision_change() returns trigger language plpgsql as $$
    begin
      if tg_op = 'UPDATE' and new.reason is null
        and to_jsonb(new) - 'reason' = to_jsonb(old) - 'reason' then
        return new;
      end if;
      raise exception 'signed revisions are append only' using errcode = 'CM002';
    end $$;
    create trigger signed_revisions_append_only before update or delete on signed_revisions
      for each row execute function refuse_revision_change();
    create trigger signed_revisions_no_truncate before truncate on signed_revisions
      execute function refuse_revision_change();

    -- What the newest revision of each attempt says, laid out for counting. Derived; can be made again.
    create table outcome_skills (
      attempt_id uuid not null references attempts (id),
      class_id uuid not null,
      trainee_id uuid not null,
      method_id text not null,
      skill text not null,
      mark "char" not null,
      started_at timestamptz not null,
      primary key (attempt_id, skill)
    );
    create index outcome_skills_history on outcome_skills
      (class_id, trainee_id, skill, started_at, attempt_id) include (mark, method_id);
    create table outcome_criteria (
      attempt_id uuid not null references attempts (id),
      class_id uuid not null,
      trainee_id uuid not null,
      method_id text not null,
      criterion_id text not null,
      skill text not null,
      mark "char" not null,
      points integer not null,
      lost integer not null,
      value double precision,
      faults text[] not null default '{}',
      started_at timestamptz not null,
      primary key (attempt_id, criterion_id)
    );
    create index outcome_criteria_failed on outcome_criteria
      (class_id, criterion_id, started_at) include (lost, faults, method_id, trainee_id, attempt_id)
      where mark in ('F', 'f', 'S');
    create table outcome_losses (
      attempt_id uuid not null references attempts (id),
      class_id uuid not null,
      trainee_id uuid not null,
      method_id text not null,
      method_version_id uuid not null,
      criterion_id text not null,
      wavelength_nm integer not null,
      direction text not null default '',
      reference_method text not null,
      fiber_class text not null,
      reference_id uuid,
      loss_db double precision,
      limit_db double precision not null,
      expected_db double precision not null,
      mark "char" not null,
      started_at timestamptz not null,
      primary key (attempt_id, criterion_id, wavelength_nm, direction)
    );
    create index outcome_losses_sample on outcome_losses
      (class_id, method_id, wavelength_nm, started_at);
  `);
}
