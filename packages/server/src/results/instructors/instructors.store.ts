import { FAIL_MARKS, JUDGED_MARKS, PASS_MARKS } from '@clear-mark/core';
import type { Database } from '../../database/database.ts';
import { rowsOf, type Sql, sql } from '../../database/sql.ts';

/** Passes and outcomes that one instructor signed in one stratum: a trainee, a skill and a week. */
export interface InstructorCell {
  readonly id: string;
  readonly name: string;
  readonly stratum: string;
  readonly k: number;
  readonly n: number;
}
export interface JudgedTwice {
  readonly first: string;
  readonly second: string;
  readonly firstPassed: boolean;
  readonly secondPassed: boolean;
}
interface CriterionCell {
  readonly criterionId: string;
  readonly id: string;
  readonly name: string;
  readonly failed: number;
  readonly n: number;
}

const SIGNED_BY = sql`join lateral (select r.signed_by from signed_revisions r where r.attempt_id = o.attempt_id
                                  order by r.revision desc limit 1) r on true
                   join people p on p.id = r.signed_by`;

export const instructorsStore = (db: Database) => ({
  strata: (where: Sql): Promise<InstructorCell[]> =>
    rowsOf(
      db,
      sql`select p.id, p.name, o.trainee_id || ' ' || o.skill || ' ' || date_trunc('week', o.started_at) as stratum,
                (count(*) filter (where o.mark = any(${PASS_MARKS})))::int as k, count(*)::int as n
           from outcome_skills o ${SIGNED_BY}
          where ${where} and o.skill <> 'whole' and o.mark = any(${JUDGED_MARKS})
          group by 1, 2, 3 order by 2, 1, 3`,
    ),

  criteria: (where: Sql): Promise<CriterionCell[]> =>
    rowsOf(
      db,
      sql`select o.criterion_id as "criterionId", p.id, p.name,
                (count(*) filter (where o.mark = any(${FAIL_MARKS})))::int as failed, count(*)::int as n
           from outcome_criteria o ${SIGNED_BY}
          where ${where} and o.mark = any(${JUDGED_MARKS})
          group by 1, 2, 3 order by 1, 3, 2`,
    ),

  /** Pieces that two instructors signed by the same method, each pair once. */
  samePieces: (classId: string): Promise<JudgedTwice[]> =>
    rowsOf(
      db,
      sql`with w as (
           select a.piece_id, o.method_id, o.mark = any(${PASS_MARKS}) as passed, p.id, p.name
             from outcome_skills o join attempts a on a.id = o.attempt_id ${SIGNED_BY}
            where o.class_id = ${classId} and o.skill = 'whole' and o.mark = any(${JUDGED_MARKS})
         )
         select x.name as first, y.name as second, x.passed as "firstPassed", y.passed as "secondPassed"
           from w x join w y on y.piece_id = x.piece_id and y.method_id = x.method_id
            and (y.name, y.id) > (x.name, x.id)`,
    ),

  /** Blind calls of the same face by two instructors. */
  sameSeries: (classId: string): Promise<JudgedTwice[]> =>
    rowsOf(
      db,
      sql`with c as (
           select u.series_id, n.position, n.said = 'pass' as passed, p.id, p.name
             from call_series s
             join call_runs u on u.series_id = s.id and u.finished_at is not null
             join people p on p.id = u.person_id and p.role <> 'trainee'
             join call_answers n on n.run_id = u.id
            where s.class_id = ${classId}
         )
         select x.name as first, y.name as second, x.passed as "firstPassed", y.passed as "secondPassed"
           from c x join c y on y.series_id = x.series_id and y.position = x.position
            and (y.name, y.id) > (x.name, x.id)`,
    ),
});
