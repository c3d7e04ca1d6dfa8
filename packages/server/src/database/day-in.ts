import { type Sql, sql } from './sql.ts';

/** The day of an instant in a zone, as YYYY-MM-DD; the zone is a value, or the name of a column as SQL. */
export const dayOf = (instant: Sql, zone: string | Sql): Sql =>
  sql`to_char(${instant} at time zone ${zone}, 'YYYY-MM-DD')`;

/** That an instant lies on or after the beginning of a day (YYYY-MM-DD) in a zone. */
export const fromDay = (instant: Sql, day: string, zone: string): Sql =>
  sql`${instant} >= ${day}::date::timestamp at time zone ${zone}`;

/** That an instant lies before the end of a day (YYYY-MM-DD) in a zone. */
export const untilDay = (instant: Sql, day: string, zone: string): Sql =>
  sql`${instant} < (${day}::date + 1)::timestamp at time zone ${zone}`;
