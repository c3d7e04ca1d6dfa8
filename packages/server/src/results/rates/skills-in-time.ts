import { skillLearning, type Survival, wilsonRate } from '@clear-mark/core';
import type { Person, ResultFilter, SkillInTime } from '@clear-mark/contract';
import { classForInstructor } from '../../classes/index.ts';
import type { Database } from '../../database/database.ts';
import { filterCondition } from '../filter.ts';
import { ratesStore, skillsInRows, type VersionStart } from './rates.store.ts';

const short = ({ n, passed, median, medianLow, medianHigh }: Survival) => ({
  n,
  passed,
  median,
  medianLow,
  medianHigh,
});

/** Versions that an earlier one of their method came before; the first of each is no change. */
const laterVersions = (starts: readonly VersionStart[]): SkillInTime['versions'] =>
  starts
    .filter((s) => starts.some((o) => o.methodId === s.methodId && o.version < s.version))
    .map(({ day, title, version }) => ({ day, title, version }));

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
  const [rows, days, starts] = await Promise.all([
    store.timedHistories(where),
    store.splitByDay(where, timeZone),
    store.versionStarts(classId, where, timeZone),
  ]);
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
        versions: laterVersions(starts.filter((s) => s.skill === skill)),
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
