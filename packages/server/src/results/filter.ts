import { fromDay, untilDay } from '../database/day-in.ts';
import type { ResultFilter } from '@clear-mark/contract';

/** SQL of a condition with its bindings, for `knex.raw`. */
export interface Condition {
  readonly sql: string;
  readonly bindings: readonly (string | number | readonly string[])[];
}

export interface Scope {
  readonly classId: string;
  readonly timeZone: string;
}

/**
 * The filter of a results view as a condition on one of the outcome tables (alias `o`). Days are days in the
 * class's zone.
 */
export function filterCondition(scope: Scope, filter: ResultFilter): Condition {
  const parts: string[] = ['o.class_id = ?'];
  const bindings: string[] = [scope.classId];
  const add = (sql: string, ...values: string[]): void => {
    parts.push(sql);
    bindings.push(...values);
  };
  if (filter.from !== undefined) {
    add(fromDay('o.started_at'), filter.from, scope.timeZone);
  }
  if (filter.to !== undefined) {
    add(untilDay('o.started_at'), filter.to, scope.timeZone);
  }
  if (filter.method !== undefined) add('o.method_id = ?', filter.method);
  if (filter.trainee !== undefined) add('o.trainee_id = ?', filter.trainee);
  if (filter.thing !== undefined) {
    add('o.attempt_id in (select attempt_id from attempt_things where thing_id = ?)', filter.thing);
  }
  if (filter.group !== undefined) {
    add(
      'o.trainee_id in (select person_id from class_members where class_id = ? and group_name = ?)',
      scope.classId,
      filter.group,
    );
  }
  return { sql: parts.join(' and '), bindings };
}
