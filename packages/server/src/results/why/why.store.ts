import { FAIL_MARKS, JUDGED_MARKS, PASS_MARKS, type Skill, type ThingKind } from '@clear-mark/core';
import type { Database } from '../../database/database.ts';
import { rowsOf, type Sql, sql } from '../../database/sql.ts';
import { KIND_OR_ITEM } from '../kind-or-item.ts';

export interface FailureRow {
  readonly criterionId: string;
  readonly failed: number;
  readonly pointsLost: number;
}
export interface FaultRow {
  readonly criterionId: string;
  readonly code: string;
  readonly times: number;
}
/** How many failed pieces a criterion was part of, and of how many it was the only fault. */
export interface FailedPieces {
  readonly criterionId: string;
  readonly failedPieces: number;
  readonly aloneIn: number;
}
/** Two criteria that failed in the same attempts; `of` counts the attempts that scored both. */
export interface FailedPair {
  readonly first: string;
  readonly second: string;
  readonly together: number;
  readonly firstFailed: number;
  readonly secondFailed: number;
  readonly of: number;
}
/** What one used or was, in one skill and week, by one trainee. */
export interface UsedCell {
  readonly skill: Skill;
  readonly source: 'trainee' | ThingKind;
  readonly id: string;
  readonly label: string;
  readonly traineeId: string;
  readonly week: string;
  readonly k: number;
  readonly n: number;
}
export interface FailedCell {
  readonly criterionId: string;
  readonly traineeId: string;
  readonly traineeName: string;
  readonly week: string;
  readonly failed: number;
  readonly n: number;
}

const WEEK = sql`date_trunc('week', o.started_at)::text as week`;
const PASSED = sql`(count(*) filter (where o.mark = any(${PASS_MARKS})))::int as k, count(*)::int as n`;
const failing = (where: Sql): Sql =>
  sql`select o.attempt_id, o.criterion_id, o.method_id from outcome_criteria o
       where ${where} and o.mark = any(${FAIL_MARKS})`;
const judgedSkills = (where: Sql): Sql =>
  sql`${where} and o.skill <> 'whole' and o.mark = any(${JUDGED_MARKS})`;

export const whyStore = (db: Database) => ({
  failures: (where: Sql): Promise<FailureRow[]> =>
    rowsOf(
      db,
      sql`select criterion_id as "criterionId", count(*) as failed, sum(lost) as "pointsLost"
            from outcome_criteria o
           where ${where} and o.mark = any(${FAIL_MARKS})
           group by criterion_id
           order by "pointsLost" desc, failed desc, criterion_id`,
    ),

  faults: (where: Sql): Promise<FaultRow[]> =>
    rowsOf(
      db,
      sql`select criterion_id as "criterionId", code, count(*) as times
            from outcome_criteria o, unnest(o.faults) as code
           where ${where} and o.mark = any(${FAIL_MARKS})
           group by criterion_id, code
           order by times desc, code`,
    ),

  failedPieces: (where: Sql): Promise<FailedPieces[]> =>
    rowsOf(
      db,
      sql`select f.criterion_id as "criterionId", count(*)::int as "failedPieces",
                 (count(*) filter (where f.all_failed = 1))::int as "aloneIn"
            from (select x.*, count(*) over (partition by x.attempt_id) as all_failed from (${failing(where)}) x) f
            join outcome_skills w
              on w.attempt_id = f.attempt_id and w.skill = 'whole' and w.mark = any(${FAIL_MARKS})
           group by f.criterion_id order by 2 desc, 1`,
    ),

  /** Both scored: the pieces of the method with a verdict, since a method scores all of its criteria. */
  failedPairs: (where: Sql, leastTogether: number): Promise<FailedPair[]> =>
    rowsOf(
      db,
      sql`with f as materialized (${failing(where)}),
               counts as (select criterion_id, count(*)::int as failed from f group by criterion_id),
               methods as (select o.method_id, count(*)::int as n from outcome_skills o
                            where ${where} and o.skill = 'whole' and o.mark = any(${JUDGED_MARKS})
                            group by o.method_id)
          select a.criterion_id as first, b.criterion_id as second, count(*)::int as together,
                 max(ca.failed) as "firstFailed", max(cb.failed) as "secondFailed", sum(distinct m.n)::int as of
            from f a
            join f b on b.attempt_id = a.attempt_id and b.criterion_id > a.criterion_id
            join counts ca on ca.criterion_id = a.criterion_id
            join counts cb on cb.criterion_id = b.criterion_id
            join methods m on m.method_id = a.method_id
           group by a.criterion_id, b.criterion_id
          having count(*) >= ${leastTogether}`,
    ),

  trainees: (where: Sql): Promise<UsedCell[]> =>
    rowsOf(
      db,
      sql`select o.skill, 'trainee' as source, p.id, p.name as label, p.id as "traineeId", ${WEEK}, ${PASSED}
            from outcome_skills o join people p on p.id = o.trainee_id
           where ${judgedSkills(where)} group by 1, 2, 3, 4, 5, 6`,
    ),

  things: (where: Sql): Promise<UsedCell[]> =>
    rowsOf(
      db,
      sql`select o.skill, ${KIND_OR_ITEM} as source, t.id, t.label, o.trainee_id as "traineeId", ${WEEK}, ${PASSED}
            from outcome_skills o
            join attempt_things x on x.attempt_id = o.attempt_id
            join things t on t.id = x.thing_id
            left join thing_settings s on s.thing_id = t.id
           where ${judgedSkills(where)} group by 1, 2, 3, 4, 5, 6`,
    ),

  failedCells: (where: Sql): Promise<FailedCell[]> =>
    rowsOf(
      db,
      sql`select o.criterion_id as "criterionId", o.trainee_id as "traineeId", p.name as "traineeName", ${WEEK},
                 (count(*) filter (where o.mark = any(${FAIL_MARKS})))::int as failed, count(*)::int as n
            from outcome_criteria o join people p on p.id = o.trainee_id
           where ${where} and o.mark = any(${JUDGED_MARKS}) group by 1, 2, 3, 4`,
    ),

  /** The attempts in which a suggested cause was charged or dismissed. */
  attemptsWithChoices: (classId: string): Promise<string[]> =>
    db('entries as e')
      .join('attempts as a', 'a.id', 'e.attempt_id')
      .whereIn('e.kind', ['charge', 'dismiss'])
      .andWhere('a.class_id', classId)
      .distinct('a.id')
      .pluck('a.id'),
});
