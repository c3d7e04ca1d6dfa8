import { summarizeSkill } from '@clear-mark/core';
import type { Person, ResultFilter, Results } from '@clear-mark/contract';
import { classesStore, classForInstructor } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { filterCondition } from './filter.ts';
import { readLabels } from './labels.ts';
import { lossSamples } from './losses/loss-samples.ts';
import { type HistoryRow, ratesStore, skillsInRows } from './rates/rates.store.ts';
import { standingRows } from './standings/standings.ts';
import { failuresOf } from './why/failures.ts';

/** The first view of Insight: rates, loss samples, what failed, and where each trainee stands. */
export async function resultsOf(
  db: Database,
  classId: string,
  filter: ResultFilter,
  me: Person,
  now: Date,
): Promise<Results> {
  const summary = await classForInstructor(db, classId, me);
  const scope = { classId, timeZone: summary.timeZone };
  const where = filterCondition(scope, filter);
  // Where a trainee stands rests on the whole history; the filter narrows rates and samples only.
  const wholeClass = filterCondition(scope, {});
  const store = ratesStore(db);
  const labels = await readLabels(db);
  const histories = store.histories(where);
  const [rows, allRows, losses, failures, trainees] = await Promise.all([
    histories,
    where.text === wholeClass.text ? histories : store.histories(wholeClass),
    lossSamples(db, where, labels),
    failuresOf(db, where, labels),
    classesStore(db).members(classId, 'trainee'),
  ]);
  const skillsOf = (list: readonly HistoryRow[], skill: string): string[] =>
    list.filter((r) => r.skill === skill).map((r) => r.marks);
  const shown = skillsInRows(rows);
  const standings = await standingRows(db, { classId, policy: summary.policy, rows: allRows, now, labels });
  return {
    skills: shown.map((skill) => ({ skill, summary: mutable(summarizeSkill(skillsOf(rows, skill))) })),
    whole: mutable(summarizeSkill(skillsOf(rows, 'whole'))),
    losses,
    failures,
    standings: trainees
      .filter((t) => filter.trainee === undefined || t.id === filter.trainee)
      .map((t) => ({
        traineeId: t.id,
        traineeName: t.name,
        cells: standings(t.id),
      })),
    signed: skillsOf(rows, 'whole').reduce((sum, marks) => sum + marks.length, 0),
  };
}

/** The same values under the contract's types, which do not say readonly. */
const mutable = (s: ReturnType<typeof summarizeSkill>) => ({ ...s, firstPassAt: [...s.firstPassAt] });
