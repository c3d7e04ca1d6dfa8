import { skillLearning, type Survival, wilsonRate } from '@clear-mark/core';
import type { Person, ResultFilter, SkillInTime } from '@clear-mark/contract';
import { classForInstructor } from '../../classes/index.ts';
import type { Database } from '../../database/database.ts';
import { filterCondition } from '../filter.ts';
import { ratesStore, skillsInRows } from './rates.store.ts';

const short = ({ n, passed, median, medianLow, medianHigh }: Survival) => ({
  n,
  passed,
  median,
  medianLow,
  medianHigh,
});

/** How each skill is learned: by attempt, to the first pass, and by day. */
export async function skillsInTime(
  db: Database,
  classId: string,
  filter: ResultFilter,
  me: Person,
): Promise<SkillInTime[]> {
  const { timeZone } = await classForInstructor(db, classId, me);
  const where = filterCondition({ classId, timeZone }, filter);
  const store = ratesStore(db);
  const [rows, days] = await Promise.all([store.timedHistories(where), store.splitByDay(where, timeZone)]);
  return skillsInRows(rows).flatMap((skill): SkillInTime[] => {
    const histories = rows.filter((r) => r.skill === skill);
    if (histories.length === 0) return [];
    const { learning, odds, oddsNone, attempts, minutes, pace } = skillLearning(histories);
    return [
      {
        skill,
        days: days
          .filter((d) => d.skill === skill)
          .map((d) => ({ day: d.key, rate: wilsonRate(d.k, d.n), void: d.void })),
        learning: learning.map((p) => ({ ...p })),
        odds,
        oddsNone,
        attempts: short(attempts),
        minutes: short(minutes),
        pace:
          pace.kind === 'curve'
            ? { first: pace.first, onDoubling: pace.onDoubling, r2: pace.r2, n: pace.n }
            : null,
      },
    ];
  });
}
