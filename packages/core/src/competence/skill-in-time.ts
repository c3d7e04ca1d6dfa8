import {
  isotonic,
  logisticCurve,
  type LogisticNone,
  type PowerLaw,
  powerLaw,
  type Survival,
  toFirstPass,
} from '../curves/index.ts';
import { type Rate, wilsonRate } from '../stats/index.ts';
import { isFailMark, isPassMark, withVerdict } from './outcome-marks.ts';

/** A trainee's outcomes in a skill with the minutes that each took, oldest first. */
export interface TimedHistory {
  readonly marks: string;
  /** One for each mark; null where it was not timed. */
  readonly minutes: readonly (number | null)[];
}
export interface LearningPoint {
  /** A trainee's 1st, 2nd, ... outcome with a verdict. */
  readonly attempt: number;
  /** Passed of those who came so far. */
  readonly rate: Rate;
  /** Share failed, never rising from one attempt to the next (isotonic regression). */
  readonly level: number;
}
export interface SkillLearning {
  readonly learning: readonly LearningPoint[];
  /** Factor of the odds of failing from one attempt to the next, with its 95 % interval; null with the reason. */
  readonly odds: { readonly factor: number; readonly low: number; readonly high: number } | null;
  readonly oddsNone: LogisticNone | null;
  readonly attempts: Survival;
  readonly minutes: Survival;
  /** Minutes of a piece by attempt number: the learning curve of time. */
  readonly pace: PowerLaw;
}

/** Later attempts are those of few trainees: they are left out of the curve, not of the counts. */
const LONGEST = 40;

/**
 * How a skill is learned by a class: failures by attempt number and the same never rising, the change of the odds an attempt
 * by logistic regression, minutes of a piece by a power law, attempts and minutes to the first pass with those counted who
 * have not passed (Kaplan-Meier).
 * Minutes run over all attempts up to the first pass, in whole minutes; a trainee with an untimed attempt before it is left
 * out of them. Input: a history a trainee. Error: `competence.unknown_mark`. Example: `FP` and `PP`: failed 1 of 2 first,
 * 0 of 2 second; first passes at 2 and 1.
 */
export function skillLearning(histories: readonly TimedHistory[]): SkillLearning {
  const judged = histories.map((h) => judgedOf(h)).filter((h) => h.marks.length > 0);
  const failed: number[] = [];
  const seen: number[] = [];
  const [numbers, passed]: [number[], number[]] = [[], []];
  for (const { marks } of judged) {
    [...marks].forEach((mark, i) => {
      seen[i] = (seen[i] ?? 0) + 1;
      failed[i] = (failed[i] ?? 0) + Number(isFailMark(mark));
      numbers.push(i + 1);
      passed.push(Number(isPassMark(mark)));
    });
  }
  const shown = seen.slice(0, LONGEST);
  const level =
    shown.length === 0
      ? []
      : isotonic(
          shown.map((n, i) => failed[i]! / n),
          shown,
          'falling',
        );
  const fit = logisticCurve(numbers, passed);
  const timed = judged.flatMap(({ minutes }) =>
    minutes.flatMap((m, i) => (m !== null && m > 0 ? [{ attempt: i + 1, minutes: m }] : [])),
  );
  return {
    learning: shown.map((n, i) => ({
      attempt: i + 1,
      rate: wilsonRate(n - failed[i]!, n),
      level: level[i]!,
    })),
    // The regression is of passing: its factor for failing is the other way round.
    odds:
      fit.kind === 'curve'
        ? { factor: Math.exp(-fit.slope), low: Math.exp(-fit.slopeHigh), high: Math.exp(-fit.slopeLow) }
        : null,
    oddsNone: fit.kind === 'none' ? fit.reason : null,
    pace: powerLaw(
      timed.map((t) => t.attempt),
      timed.map((t) => t.minutes),
    ),
    attempts: toFirstPass(judged.map(({ marks }) => untilPass(marks, () => 1)!)),
    minutes: toFirstPass(
      judged.flatMap(({ marks, minutes }) => {
        const found = untilPass(marks, (i) => minutes[i]!);
        return found ? [{ ...found, attempts: Math.max(1, Math.ceil(found.attempts)) }] : [];
      }),
    ),
  };
}

function judgedOf({ marks, minutes }: TimedHistory): TimedHistory {
  const kept = [...marks].flatMap((mark, i) => (withVerdict(mark) === '' ? [] : [i]));
  return { marks: kept.map((i) => marks[i]).join(''), minutes: kept.map((i) => minutes[i] ?? null) };
}

/** What it took up to the first pass, or so far; null where a part of it is not known. */
function untilPass(marks: string, cost: (at: number) => number | null) {
  const first = [...marks].findIndex(isPassMark);
  const last = first < 0 ? marks.length - 1 : first;
  let sum = 0;
  for (let i = 0; i <= last; i++) {
    const one = cost(i);
    if (one === null) return null;
    sum += one;
  }
  return { attempts: sum, passed: first >= 0 };
}
