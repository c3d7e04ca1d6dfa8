import type { Knex } from 'knex';

export const name = '0017-face-chances';

/** How probable a pass is by what the engine saw; null for a row, for what was not graded, and for what was kept before. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`alter table faces add column pass_probability real check (pass_probability between 0 and 1)`);
}
