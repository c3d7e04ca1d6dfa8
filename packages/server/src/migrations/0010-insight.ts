import type { Knex } from 'knex';

export const name = '0010-insight';

/** Groups of a class, minutes of an attempt, sign-offs, the plan of retraining, and jobs of re-scoring. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    alter table class_members add column group_name text not null default '';

    -- Minutes from the start to the last entry; null where it was left open for hours.
    alter table outcome_skills add column minutes real;
    update outcome_skills o set minutes = t.minutes
      from (select a.id, extract(epoch from max(e.at) - a.started_at) / 60 as minutes
              from attempts a join entries e on e.attempt_id = a.id group by a.id) t
     where t.id = o.attempt_id and t.minutes between 0 and 240;

    create table sign_offs (
      id uuid primary key,
      class_id uuid not null,
      trainee_id uuid not null,
      skill text not null,
      rule text not null,
      evidence text not null,
      attempt_ids uuid[] not null,
      note text not null default '',
      lapses_on date not null,
      by uuid not null references people (id),
      at timestamptz not null,
      foreign key (class_id, trainee_id) references class_members (class_id, person_id)
    );
    create index sign_offs_of on sign_offs (class_id, trainee_id, skill, at);
    -- Only the personal text of its note may be erased.
    create function refuse_sign_off_change() returns trigger language plpgsql as $$
    begin
      if tg_op = 'UPDATE' and new.note = '' and to_jsonb(new) - 'note' = to_jsonb(old) - 'note' then
        return new;
      end if;
      raise exception 'sign_offs is append only' using errcode = 'CM002';
    end $$;
    create trigger sign_offs_append_only before update or delete on sign_offs
      for each row execute function refuse_sign_off_change();

    create table plan_sessions (
      id uuid primary key,
      class_id uuid not null references classes (id),
      starts_at timestamptz not null,
      minutes integer not null check (minutes between 5 and 1440),
      place text not null default '',
      unique (class_id, id)
    );
    create table plan_items (
      id uuid primary key,
      class_id uuid not null,
      trainee_id uuid not null,
      skill text not null,
      opened_at timestamptz not null,
      closed_at timestamptz,
      reopened integer not null default 0,
      pieces integer check (pieces between 1 and 500),
      minutes integer check (minutes between 1 and 10000),
      drill text,
      session_id uuid,
      foreign key (class_id, trainee_id) references class_members (class_id, person_id),
      foreign key (class_id, session_id) references plan_sessions (class_id, id),
      unique (class_id, trainee_id, skill)
    );
    create table what_if_jobs (
      id uuid primary key,
      class_id uuid not null references classes (id),
      state text not null check (state in ('running', 'done', 'cancelled', 'failed')),
      done integer not null default 0,
      total integer not null default 0,
      results jsonb not null default '[]',
      by uuid not null references people (id),
      at timestamptz not null default now(),
      beat timestamptz not null default now()
    );
    create unique index what_if_one_at_a_time on what_if_jobs (class_id) where state = 'running';
  `);
}
