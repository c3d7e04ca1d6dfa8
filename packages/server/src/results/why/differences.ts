import { comparedWithOthers, type Skill } from '@clear-mark/core';
import type { Person, ResultFilter, Differences } from '@clear-mark/contract';
import { classForInstructor } from '../../classes/index.ts';
import type { Database } from '../../database/database.ts';
import { filterCondition } from '../filter.ts';
import { readLabels } from '../labels.ts';
import { type FailedCell, type UsedCell, whyStore } from './why.store.ts';

/**
 * Who and what stands differs: a thing against the others of its kind in the hands of the same trainees in the same weeks, a
 * trainee against the others in the same weeks, in each skill and in each criterion.
 */
export async function differences(
  db: Database,
  classId: string,
  filter: ResultFilter,
  me: Person,
): Promise<Differences> {
  const { timeZone } = await classForInstructor(db, classId, me);
  const where = filterCondition({ classId, timeZone }, filter);
  const store = whyStore(db);
  const [people, things, failed, labels] = await Promise.all([
    store.trainees(where),
    store.things(where),
    store.failedCells(where),
    readLabels(db),
  ]);
  return {
    ...skillDifferences([...people, ...things]),
    criteria: criterionDifferences(failed, (id) => labels.criteria.get(id)?.label ?? id),
  };
}

export function skillDifferences(cells: readonly UsedCell[]): Pick<Differences, 'compared' | 'skills'> {
  const named = new Map(cells.map((c) => [c.id, c]));
  const found = comparedWithOthers(
    cells.map(({ skill, source, id, traineeId, week, k, n }) => ({
      group: `${skill} ${source}`,
      // A trainee is compared with the others of the week, a thing with the others in the same hands.
      stratum: source === 'trainee' ? week : `${traineeId} ${week}`,
      id,
      k,
      n,
    })),
  );
  return {
    compared: found.length,
    skills: found
      .filter((f) => f.differs)
      .map(({ group, id, k, n, expected, difference, low, high, p }) => ({
        skill: group.split(' ')[0] as Skill,
        source: named.get(id)!.source,
        label: named.get(id)!.label,
        id,
        k,
        n,
        expected,
        difference,
        low,
        high,
        p,
      }))
      .sort((a, b) => a.p - b.p || a.difference - b.difference),
  };
}

function criterionDifferences(
  cells: readonly FailedCell[],
  labelOf: (criterionId: string) => string,
): Differences['criteria'] {
  const names = new Map(cells.map((c) => [c.traineeId, c.traineeName]));
  return comparedWithOthers(
    cells.map((c) => ({
      group: c.criterionId,
      id: c.traineeId,
      stratum: c.week,
      k: c.n - c.failed,
      n: c.n,
    })),
  )
    .filter((f) => f.differs && f.difference < 0)
    .map(({ group, id, k, n, expected, p }) => ({
      criterionId: group,
      label: labelOf(group),
      traineeId: id,
      traineeName: names.get(id)!,
      failed: n - k,
      n,
      expected: 1 - expected,
      p,
    }))
    .sort((a, b) => a.p - b.p || b.failed - a.failed);
}
