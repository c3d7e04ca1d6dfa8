import type { Knex } from 'knex';

export const name = '0036-measured-ends';

/** Prepared ends are measured too: of which layer a length is stands where a cleave says of which end its angle is. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    alter table measured_pictures
      add column layer text check (layer in ('jacket', 'buffer', 'glass')),
      alter column side drop not null,
      drop constraint measured_pictures_kind_check,
      add constraint measured_pictures_kind_check check (kind in ('cleave', 'end')),
      add constraint measured_pictures_of check ((kind = 'cleave') = (side is not null) and (kind = 'end') = (layer is not null));
  `);
}
