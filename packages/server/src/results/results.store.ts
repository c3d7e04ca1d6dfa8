import type { Direction, Skill } from '@clear-mark/core';
import type { Database } from '../database/database.ts';
import { dayOf } from '../database/day-in.ts';
import type { Condition } from './filter.ts';

export const FAIL_MARKS = "('F', 'f', 'S')";
export const PASS_MARKS = "('P', 'p')";
export const JUDGED_MARKS = "('P', 'p', 'F', 'f', 'S')";

export interface HistoryRow {
  readonly traineeId: string;
  readonly skill: Skill | 'whole';
  readonly marks: string;
  readonly lastPassMs: number | null;
}

export interface LossRow {
  readonly methodId: string;
  readonly referenceMethod: string;
  readonly fiberClass: string;
  readonly wavelengthNm: number;
  readonly direction: '' | Direction;
  readonly limitDb: number;
  readonly expectedDb: number;
  /**
   * Losses in dB from the lowest on: each value once in eight bytes, how often it was read in four. A meter shows hundredths,
   * so that a million readings are some hundred values; one number a reading took twice as long.
   */
  readonly losses: Buffer | null;
  readonly voids: number;
}

export interface FailureRow {
  readonly criterionId: string;
  readonly failed: number;
  readonly pointsLost: number;
}

export interface WindowLoss {
  readonly traineeId: string;
  readonly skill: Skill;
  readonly criterionId: string;
  readonly lost: number;
}

const all = async <T>(db: Database, sql: string, bindings: readonly unknown[]): Promise<T[]> =>
  (await db.raw(sql, bindings as never)).rows as T[];

export const resultsStore = (db: Database) => ({
  /**
   * Each trainee's outcomes in each skill as one text of marks, oldest first; a row of 100,000 attempts would
   * be a row each otherwise, and reading those costs more than all the counting.
   * The order comes from the index through the sorted subquery; an ORDER BY inside the aggregate would sort
   * every group again.
   */
  histories: (where: Condition): Promise<HistoryRow[]> =>
    all<HistoryRow>(
      db,
      `select trainee_id as "traineeId", skill, string_agg(mark::text, '') as marks,
              (extract(epoch from max(started_at) filter (where mark in ${PASS_MARKS})) * 1000)::float8
                as "lastPassMs"
         from (select trainee_id, skill, mark, started_at from outcome_skills o
                where ${where.sql}
                order by trainee_id, skill, started_at, attempt_id) o
        group by trainee_id, skill
        order by trainee_id, skill`,
      where.bindings,
    ),

  /** The same with the minutes of each attempt beside its mark; grouped as it is sorted, or the order would be lost. */
  timedHistories: (
    where: Condition,
  ): Promise<{ skill: Skill; marks: string; minutes: (number | null)[] }[]> =>
    all(
      db,
      `select skill, string_agg(mark::text, '') as marks, array_agg(minutes) as minutes
         from (select trainee_id, skill, mark, minutes from outcome_skills o
                where ${where.sql} and o.skill <> 'whole'
                order by trainee_id, skill, started_at, attempt_id) o
        group by trainee_id, skill
        order by trainee_id, skill`,
      where.bindings,
    ),

  losses: (where: Condition): Promise<LossRow[]> =>
    all<LossRow>(
      db,
      `select method_id as "methodId", reference_method as "referenceMethod", fiber_class as "fiberClass",
              wavelength_nm as "wavelengthNm", direction, limit_db as "limitDb", max(expected) as "expectedDb",
              string_agg(float8send(loss_db) || int4send(times), ''::bytea order by loss_db)
                filter (where loss_db is not null) as losses,
              sum(voids)::int as voids
         from (select method_id, reference_method, fiber_class, wavelength_nm, direction, limit_db, loss_db,
                      count(*)::int as times, max(expected_db) as expected, count(*) filter (where mark = 'V') as voids
                 from outcome_losses o
                where ${where.sql}
                group by method_id, reference_method, fiber_class, wavelength_nm, direction, limit_db, loss_db) o
        group by method_id, reference_method, fiber_class, wavelength_nm, direction, limit_db
        order by method_id, wavelength_nm, direction`,
      where.bindings,
    ),

  failures: (where: Condition): Promise<FailureRow[]> =>
    all<FailureRow>(
      db,
      `select criterion_id as "criterionId", count(*) as failed, sum(lost) as "pointsLost"
         from outcome_criteria o
        where ${where.sql} and o.mark in ${FAIL_MARKS}
        group by criterion_id
        order by "pointsLost" desc, failed desc, criterion_id`,
      where.bindings,
    ),

  faults: (where: Condition): Promise<{ criterionId: string; code: string; times: number }[]> =>
    all(
      db,
      `select criterion_id as "criterionId", code, count(*) as times
         from outcome_criteria o, unnest(o.faults) as code
        where ${where.sql} and o.mark in ${FAIL_MARKS}
        group by criterion_id, code
        order by times desc, code`,
      where.bindings,
    ),

  /** Points lost per criterion in the failed ones among each trainee's last outcomes of a skill. */
  windowLosses: (
    classId: string,
    pairs: readonly { traineeId: string; skill: string }[],
    window: number,
  ): Promise<WindowLoss[]> =>
    all<WindowLoss>(
      db,
      `select p.trainee_id as "traineeId", p.skill, c.criterion_id as "criterionId", sum(c.lost)::int as lost
         from unnest(?::uuid[], ?::text[]) as p(trainee_id, skill)
         cross join lateral (
           select attempt_id, mark from outcome_skills o
            where o.class_id = ? and o.trainee_id = p.trainee_id and o.skill = p.skill
              and o.mark in ${JUDGED_MARKS}
            order by started_at desc, attempt_id desc
            limit ?
         ) r
         join outcome_criteria c
           on c.attempt_id = r.attempt_id and c.skill = p.skill and c.mark in ${FAIL_MARKS}
        where r.mark in ${FAIL_MARKS}
        group by p.trainee_id, p.skill, c.criterion_id, c.attempt_id`,
      [pairs.map((p) => p.traineeId), pairs.map((p) => p.skill), classId, window],
    ),

  splitByThing: (
    where: Condition,
    kind: string,
  ): Promise<{ key: string; label: string; skill: Skill; k: number; n: number; void: number }[]> =>
    all(
      db,
      `select t.id as key, t.label, o.skill,
              count(*) filter (where o.mark in ${PASS_MARKS}) as k,
              count(*) filter (where o.mark in ${JUDGED_MARKS}) as n,
              count(*) filter (where o.mark = 'V') as void
         from outcome_skills o
         join attempt_things x on x.attempt_id = o.attempt_id
         join things t on t.id = x.thing_id and t.kind = ?
        where ${where.sql} and o.skill <> 'whole'
        group by t.id, t.label, o.skill
        order by length(t.label), t.label`,
      [kind, ...where.bindings],
    ),

  splitByDay: (
    where: Condition,
    timeZone: string,
  ): Promise<{ key: string; label: string; skill: Skill; k: number; n: number; void: number }[]> =>
    all(
      db,
      `select day as key, day as label, skill,
              count(*) filter (where mark in ${PASS_MARKS}) as k,
              count(*) filter (where mark in ${JUDGED_MARKS}) as n,
              count(*) filter (where mark = 'V') as void
         from (select ${dayOf('o.started_at')} as day, o.skill, o.mark
                 from outcome_skills o
                where ${where.sql} and o.skill <> 'whole') d
        group by day, skill
        order by day`,
      [timeZone, ...where.bindings],
    ),

  /** Labels of the criteria of every version that was in force, the newest version's words first. */
  sheets: async (): Promise<{ methodId: string; title: string; id: string }[]> =>
    db('method_versions')
      .select('method_id as methodId', 'title', 'id')
      .whereNot('state', 'draft')
      .orderBy('method_id')
      .orderBy('version'),
});
