import { againstTheOthers, type Skill, type ThingKind } from '@clear-mark/core';
import type { Person, ResultFilter, StandsOut } from '@clear-mark/contract';
import { classForInstructor } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { filterCondition } from './filter.ts';
import { readLabels } from './labels.ts';
import { FAIL_MARKS, JUDGED_MARKS, PASS_MARKS } from './results.store.ts';

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
interface FailedCell {
  readonly criterionId: string;
  readonly traineeId: string;
  readonly traineeName: string;
  readonly week: string;
  readonly failed: number;
  readonly n: number;
}

/**
 * Who and what stands apart: a thing against the others of its kind in the hands of the same trainees in the same weeks, a
 * trainee against the others in the same weeks, in each skill and in each criterion.
 */
export async function standsOut(
  db: Database,
  classId: string,
  filter: ResultFilter,
  me: Person,
): Promise<StandsOut> {
  const { timeZone } = await classForInstructor(db, classId, me);
  const where = filterCondition({ classId, timeZone }, filter);
  const rows = async <T>(sql: string): Promise<T[]> =>
    (await db.raw(sql, where.bindings as never)).rows as T[];
  const counts = `(count(*) filter (where o.mark in ${PASS_MARKS}))::int as k, count(*)::int as n`;
  const week = `date_trunc('week', o.started_at)::text as week`;
  const from = `${where.sql} and o.skill <> 'whole' and o.mark in ${JUDGED_MARKS}`;
  const [people, things, failed, labels] = await Promise.all([
    rows<UsedCell>(
      `select o.skill, 'trainee' as source, p.id, p.name as label, p.id as "traineeId", ${week}, ${counts}
         from outcome_skills o join people p on p.id = o.trainee_id where ${from} group by 1, 2, 3, 4, 5, 6`,
    ),
    rows<UsedCell>(
      `select o.skill, t.kind as source, t.id, t.label, o.trainee_id as "traineeId", ${week}, ${counts}
         from outcome_skills o
         join attempt_things x on x.attempt_id = o.attempt_id
         join things t on t.id = x.thing_id
        where ${from} group by 1, 2, 3, 4, 5, 6`,
    ),
    rows<FailedCell>(
      `select o.criterion_id as "criterionId", o.trainee_id as "traineeId", p.name as "traineeName", ${week},
              (count(*) filter (where o.mark in ${FAIL_MARKS}))::int as failed, count(*)::int as n
         from outcome_criteria o join people p on p.id = o.trainee_id
        where ${where.sql} and o.mark in ${JUDGED_MARKS} group by 1, 2, 3, 4`,
    ),
    readLabels(db),
  ]);
  return {
    ...skillsApart([...people, ...things]),
    criteria: criteriaApart(failed, (id) => labels.criteria.get(id)?.label ?? id),
  };
}

export function skillsApart(cells: readonly UsedCell[]): Pick<StandsOut, 'compared' | 'skills'> {
  const named = new Map(cells.map((c) => [c.id, c]));
  const found = againstTheOthers(
    cells.map(({ skill, source, id, traineeId, week, k, n }) => ({
      group: `${skill} ${source}`,
      // A trainee is compared with the others of the week, a thing with the others in the same hands.
      stratum: source === 'trainee' ? week : `${traineeId} ${week}`,
      ...{ id, k, n },
    })),
  );
  return {
    compared: found.length,
    skills: found
      .filter((f) => f.apart)
      .map(({ group, id, k, n, expected, difference, low, high, p }) => ({
        skill: group.split(' ')[0] as Skill,
        source: named.get(id)!.source,
        label: named.get(id)!.label,
        ...{ id, k, n, expected, difference, low, high, p },
      }))
      .sort((a, b) => a.p - b.p || a.difference - b.difference),
  };
}

function criteriaApart(
  cells: readonly FailedCell[],
  labelOf: (criterionId: string) => string,
): StandsOut['criteria'] {
  const names = new Map(cells.map((c) => [c.traineeId, c.traineeName]));
  return againstTheOthers(
    cells.map((c) => ({
      ...{ group: c.criterionId, id: c.traineeId, stratum: c.week, k: c.n - c.failed, n: c.n },
    })),
  )
    .filter((f) => f.apart && f.difference < 0)
    .map(({ group, id, k, n, expected, p }) => ({
      ...{ criterionId: group, label: labelOf(group), traineeId: id, traineeName: names.get(id)! },
      ...{ failed: n - k, n, expected: 1 - expected, p },
    }))
    .sort((a, b) => a.p - b.p || b.failed - a.failed);
}
