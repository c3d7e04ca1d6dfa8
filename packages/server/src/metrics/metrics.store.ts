import type { Database } from '../database/database.ts';
import { rowsOf, sql } from '../database/sql.ts';

export const metricsStore = (db: Database) => ({
  waiting: (): Promise<{ what: string; n: number }[]> =>
    rowsOf(
      db,
      sql`select 'open_pieces' as what, count(*)::int as n from attempts where state = 'open'
          union all
          select 'deliveries', count(*)::int from deliveries where delivered_at is null and given_up_at is null
          union all
          select 'jobs', ((select count(*) from what_if_jobs where state = 'running')
                          + (select count(*) from report_batches where state = 'running'))::int
          union all
          select 'sessions', count(*)::int from session where expire > now()`,
    ),
});
