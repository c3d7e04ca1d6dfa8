import type { ResultFilter } from '@clear-mark/contract';
import { fromDay, untilDay } from '../database/day-in.ts';
import { joined, own, type Sql, sql } from '../database/sql.ts';

export interface Scope {
  readonly classId: string;
  readonly timeZone: string;
}

/**
 * The filter of a results view as a condition on one of the outcome tables, `o` unless another alias is named. Days are days
 * in the class's zone.
 */
export function filterCondition({ classId, timeZone }: Scope, filter: ResultFilter, alias = 'o'): Sql {
  const column = (name: string): Sql => own(`${alias}.${name}`);
  const parts = [sql`${column('class_id')} = ${classId}`];
  if (filter.from !== undefined) parts.push(fromDay(column('started_at'), filter.from, timeZone));
  if (filter.to !== undefined) parts.push(untilDay(column('started_at'), filter.to, timeZone));
  if (filter.method !== undefined) parts.push(sql`${column('method_id')} = ${filter.method}`);
  if (filter.trainee !== undefined) parts.push(sql`${column('trainee_id')} = ${filter.trainee}`);
  if (filter.thing !== undefined) {
    const used = sql`select attempt_id from attempt_things where thing_id = ${filter.thing}`;
    parts.push(sql`${column('attempt_id')} in (${used})`);
  }
  if (filter.group !== undefined) {
    const members = sql`select person_id from class_members
                         where class_id = ${classId} and group_name = ${filter.group}`;
    parts.push(sql`${column('trainee_id')} in (${members})`);
  }
  return joined(parts, ' and ');
}
