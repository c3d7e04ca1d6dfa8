import type { Knex } from 'knex';

export const name = '0035-measured-pictures';

/** Pictures that values of a sheet were measured in, with what was found in them. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    create table measured_pictures (
      id uuid primary key,
      class_id uuid not null,
      attempt_id uuid not null,
      criterion_id text not null check (length(criterion_id) between 1 and 200),
      kind text not null check (kind in ('cleave')),
      sha256 text not null references pictures (sha256),
      width integer not null check (width > 0),
      height integer not null check (height > 0),
      source text not null check (source in ('camera', 'file', 'stand_in')),
      reading jsonb not null,
      side text not null check (side in ('left', 'right')),
      dragged jsonb,
      value_text text not null check (length(value_text) between 1 and 40),
      expanded text not null check (length(expanded) between 1 and 40),
      taken_at timestamptz not null,
      taken_by uuid not null references people (id),
      foreign key (class_id, attempt_id) references attempts (class_id, id)
    );
    create index measured_pictures_attempt on measured_pictures (attempt_id);
    create index measured_pictures_picture on measured_pictures (sha256);
    create trigger measured_pictures_append_only before update or delete on measured_pictures
      for each row execute function refuse_change();
  `);
}
