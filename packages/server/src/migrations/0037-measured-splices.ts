import type { Knex } from 'knex';

export const name = '0037-measured-splices';

/** Joints are graded by a picture too: at which level stands where a cleave says of which end its angle is. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    alter table measured_pictures
      add column level text,
      drop constraint measured_pictures_kind_check,
      add constraint measured_pictures_kind_check check (kind in ('cleave', 'end', 'splice')),
      drop constraint measured_pictures_of,
      add constraint measured_pictures_of check (
        (kind = 'cleave') = (side is not null) and (kind = 'end') = (layer is not null) and (kind = 'splice') = (level is not null));
  `);
}
