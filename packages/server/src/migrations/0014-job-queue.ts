import type { Knex } from 'knex';

export const name = '0014-job-queue';

/** Whether a what-if job still runs is known by the queue that it lies in; jobs of before it are lost with their processes. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    update what_if_jobs set state = 'failed' where state = 'running';
    alter table what_if_jobs drop column beat;
  `);
}
