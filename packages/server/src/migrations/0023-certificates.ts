import type { Knex } from 'knex';

export const name = '0023-certificates';

/** Certificates of what trainees are signed off in: what one says never changes, and one that is withdrawn says so. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    create table certificates (
      id uuid primary key,
      class_id uuid not null,
      trainee_id uuid not null,
      code text not null unique check (code ~ '^[A-Z0-9]{12}$'),
      skills jsonb not null,
      attempt_ids uuid[] not null,
      valid_until date not null,
      issued_by uuid not null references people (id),
      issued_at timestamptz not null,
      foreign key (class_id, trainee_id) references class_members (class_id, person_id)
    );
    create index certificates_of on certificates (class_id, trainee_id, issued_at);
    create trigger certificates_append_only before update or delete on certificates
      for each row execute function refuse_change();
    create table certificate_withdrawals (
      certificate_id uuid primary key references certificates (id),
      by uuid not null references people (id),
      at timestamptz not null,
      reason text not null
    );
    create trigger certificate_withdrawals_append_only before update or delete on certificate_withdrawals
      for each row execute function refuse_change();
  `);
}
