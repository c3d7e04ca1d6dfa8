import { JUDGED_MARKS, PASS_MARKS, type Skill, skillsInOrder } from '@clear-mark/core';
import type { Database } from '../../database/database.ts';
import { dayOf } from '../../database/day-in.ts';
import { own, rowsOf, type Sql, sql } from '../../database/sql.ts';

/** The skills that these histories are of, in order. */
export const skillsInRows = (rows: readonly { readonly skill: Skill | 'whole' }[]): Skill[] =>
  skillsInOrder(rows.flatMap(({ skill }) => (skill === 'whole' ? [] : skill)));

export interface HistoryRow {
  readonly traineeId: string;
  readonly skill: Skill | 'whole';
  readonly marks: string;
  readonly lastPassMs: number | null;
}
export interface TimedHistoryRow {
  readonly skill: Skill;
  readonly marks: string;
  readonly minutes: (number | null)[];
}
/** Passes and judged outcomes of one skill on one day, or with one thing. */
export interface SplitRow {
  readonly key: string;
  readonly label: string;
  readonly skill: Skill;
  readonly k: number;
  readonly n: number;
  readonly void: number;
}

export interface VersionStart {
  readonly skill: Skill;
  readonly methodId: string;
  readonly title: string;
  readonly version: number;
  readonly day: string;
}

const counts = (mark: Sql): Sql =>
  sql`count(*) filter (where ${mark} = any(${PASS_MARKS})) as k,
      count(*) filter (where ${mark} = any(${JUDGED_MARKS})) as n,
      count(*) filter (where ${mark} = 'V') as void`;

export const ratesStore = (db: Database) => ({
  /**
   * Each trainee's outcomes in each skill as one text of marks, oldest first; a row of 100,000 attempts would
   * be a row each otherwise, and reading those costs more than all the counting.
   * The order comes from the index through the sorted subquery; an ORDER BY inside the aggregate would sort
   * every group again.
   */
  histories: (where: Sql): Promise<HistoryRow[]> =>
    rowsOf(
      db,
      sql`select trainee_id as "traineeId", skill, string_agg(mark::text, '') as marks,
                 (extract(epoch from max(started_at) filter (where mark = any(${PASS_MARKS}))) * 1000)::float8
                   as "lastPassMs"
            from (select trainee_id, skill, mark, started_at from outcome_skills o
                   where ${where}
                   order by trainee_id, skill, started_at, attempt_id) o
           group by trainee_id, skill
           order by trainee_id, skill`,
    ),

  /** The same with the minutes of each attempt beside its mark; grouped as it is sorted, or the order would be lost. */
  timedHistories: (where: Sql): Promise<TimedHistoryRow[]> =>
    rowsOf(
      db,
      sql`select skill, string_agg(mark::text, '') as marks, array_agg(minutes) as minutes
            from (select trainee_id, skill, mark, minutes from outcome_skills o
                   where ${where} and o.skill <> 'whole'
                   order by trainee_id, skill, started_at, attempt_id) o
           group by trainee_id, skill
           order by trainee_id, skill`,
    ),

  splitByThing: (where: Sql, kind: string): Promise<SplitRow[]> =>
    rowsOf(
      db,
      sql`select t.id as key, t.label, o.skill, ${counts(own('o.mark'))}
            from outcome_skills o
            join attempt_things x on x.attempt_id = o.attempt_id
            join things t on t.id = x.thing_id and t.kind = ${kind}
           where ${where} and o.skill <> 'whole'
           group by t.id, t.label, o.skill
           order by length(t.label), t.label`,
    ),

  /** The day on which each version of the methods that the class has several of was first used, by skill. */
  versionStarts: (classId: string, where: Sql, timeZone: string): Promise<VersionStart[]> =>
    rowsOf(
      db,
      sql`with several as (
            select v.method_id from class_methods c join method_versions v on v.id = c.method_version_id
             where c.class_id = ${classId} group by v.method_id having count(*) > 1)
          select o.skill, v.method_id as "methodId", v.title, v.version,
                 ${dayOf(own('min(o.started_at)'), timeZone)} as day
            from outcome_skills o
            join attempts a on a.id = o.attempt_id
            join method_versions v on v.id = a.method_version_id
           where ${where} and o.skill <> 'whole' and o.method_id in (select method_id from several)
           group by o.skill, v.method_id, v.title, v.version
           order by v.method_id, v.version`,
    ),

  splitByDay: (where: Sql, timeZone: string): Promise<SplitRow[]> =>
    rowsOf(
      db,
      sql`select day as key, day as label, skill, ${counts(own('mark'))}
            from (select ${dayOf(own('o.started_at'), timeZone)} as day, o.skill, o.mark
                    from outcome_skills o
                   where ${where} and o.skill <> 'whole') d
           group by day, skill
           order by day`,
    ),
});
