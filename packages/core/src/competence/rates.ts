import { type Rate, wilsonRate } from '../stats/index.ts';
import { isFailMark, isPassMark, withVerdict } from './outcome-marks.ts';

export interface SkillSummary {
  readonly rate: Rate;
  readonly firstAttempt: Rate;
  readonly void: number;
  readonly incomplete: number;
  readonly marginal: number;
  /** How many trainees passed first at their 1st, 2nd, ... outcome with a verdict. */
  readonly firstPassAt: readonly number[];
  /** Trainees with a verdict who have not passed yet: counted as such, not left out. */
  readonly notYetPassed: number;
}

/**
 * Pass rate of a skill over trainees: n = outcomes with a verdict, k = passes and marginal passes; the
 * first-attempt rate; attempts to the first pass with those who have not passed yet kept beside it.
 * Input: one text of outcome marks a trainee, oldest first. Error: `competence.unknown_mark`.
 * Example: `FP` and `F` give 1 of 3, first attempts 0 of 2, one first pass at 2, one not yet.
 */
export function summarizeSkill(histories: readonly string[]): SkillSummary {
  let n = 0;
  let k = 0;
  let voids = 0;
  let incomplete = 0;
  let marginal = 0;
  let firstN = 0;
  let firstK = 0;
  let notYetPassed = 0;
  const firstPassAt: number[] = [];
  for (const history of histories) {
    for (const mark of history) {
      if (isPassMark(mark)) k += 1;
      if (isPassMark(mark) || isFailMark(mark)) n += 1;
      if (mark === 'V') voids += 1;
      if (mark === 'I') incomplete += 1;
      if (mark === 'p') marginal += 1;
    }
    const marks = withVerdict(history);
    if (marks.length === 0) continue;
    firstN += 1;
    if (isPassMark(marks[0]!)) firstK += 1;
    const first = [...marks].findIndex(isPassMark);
    if (first < 0) notYetPassed += 1;
    else firstPassAt[first] = (firstPassAt[first] ?? 0) + 1;
  }
  return {
    rate: wilsonRate(k, n),
    firstAttempt: wilsonRate(firstK, firstN),
    void: voids,
    incomplete,
    marginal,
    firstPassAt: Array.from(firstPassAt, (count) => count ?? 0),
    notYetPassed,
  };
}
