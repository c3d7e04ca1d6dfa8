import { FAIL_MARKS, JUDGED_MARKS, type OutcomeMark, type Skill } from '@clear-mark/core';
import type { Database } from '../../database/database.ts';
import { rowsOf, sql } from '../../database/sql.ts';

export interface WindowLoss {
  readonly traineeId: string;
  readonly skill: Skill;
  readonly criterionId: string;
  readonly lost: number;
}
export interface OfSkill {
  readonly id: string;
  readonly traineeId: string;
  readonly skill: Skill;
}
export interface OutcomeRow {
  readonly attemptId: string;
  readonly startedAt: string;
  readonly pieceLabel: string;
  readonly methodTitle: string;
  readonly mark: OutcomeMark;
  readonly minutes: number | null;
}

export const standingsStore = (db: Database) => ({
  /** Points lost per criterion in the failed ones among each trainee's last outcomes of a skill. */
  windowLosses: (
    classId: string,
    pairs: readonly { traineeId: string; skill: string }[],
    window: number,
  ): Promise<WindowLoss[]> =>
    rowsOf(
      db,
      sql`select p.trainee_id as "traineeId", p.skill, c.criterion_id as "criterionId", sum(c.lost)::int as lost
            from unnest(${pairs.map((p) => p.traineeId)}::uuid[], ${pairs.map((p) => p.skill)}::text[])
                   as p(trainee_id, skill)
            cross join lateral (
              select attempt_id, mark from outcome_skills o
               where o.class_id = ${classId} and o.trainee_id = p.trainee_id and o.skill = p.skill
                 and o.mark = any(${JUDGED_MARKS})
               order by started_at desc, attempt_id desc
               limit ${window}
            ) r
            join outcome_criteria c
              on c.attempt_id = r.attempt_id and c.skill = p.skill and c.mark = any(${FAIL_MARKS})
           where r.mark = any(${FAIL_MARKS})
           group by p.trainee_id, p.skill, c.criterion_id, c.attempt_id`,
    ),

  /** The outcomes of one trainee in one skill, oldest first. */
  outcomes: ({ id, traineeId, skill }: OfSkill): Promise<OutcomeRow[]> =>
    rowsOf(
      db,
      sql`select o.attempt_id as "attemptId", o.started_at as "startedAt", i.label as "pieceLabel",
                 v.title as "methodTitle", o.mark::text as mark, o.minutes
            from outcome_skills o
            join attempts a on a.id = o.attempt_id
            join pieces i on i.id = a.piece_id
            join method_versions v on v.id = a.method_version_id
           where o.class_id = ${id} and o.trainee_id = ${traineeId} and o.skill = ${skill}
           order by o.started_at, o.attempt_id`,
    ),
});
