import type { SkillInTime } from '@clear-mark/contract';
import type { LogisticNone } from '@clear-mark/core';

/** What rests on fewer trainees than this looks like little: no median, hollow points, a dashed line. */
export const FEW = 5;

const NONE: Readonly<Record<LogisticNone, string>> = {
  too_few: 'One outcome alone shows no trend.',
  all_pass: 'Everything passed, so there is no trend to fit.',
  all_fail: 'Everything failed, so there is no trend to fit.',
  one_attempt_number:
    'All have one attempt each, so a trend cannot be told from differences between trainees.',
  separated: 'Failures and passes part at one attempt number: the trend is too steep for a figure.',
};

const twoPlaces = (x: number): string => (x >= 10 ? x.toFixed(0) : x.toFixed(2));

/** Whether the class learns, in a sentence that stays silent where the interval holds 1. */
export function trendWords({ odds, oddsNone }: Pick<SkillInTime, 'odds' | 'oddsNone'>): string {
  if (!odds) return oddsNone === null ? '' : NONE[oddsNone as LogisticNone];
  const figures = `the odds of failing change by a factor of ${twoPlaces(odds.factor)} from one attempt to the next (95 % interval ${twoPlaces(odds.low)} to ${twoPlaces(odds.high)})`;
  if (odds.high < 1) return `It is being learned: ${figures}.`;
  if (odds.low > 1) return `It gets worse with every attempt: ${figures}.`;
  return `No trend beyond chance: ${figures}.`;
}

/** What it takes to the first pass, with those who have not passed counted. */
export function firstPassWords(
  { n, passed, median, medianLow, medianHigh }: SkillInTime['attempts'],
  unit: 'attempts' | 'minutes',
): string {
  if (n === 0) return unit === 'minutes' ? 'Nobody was timed.' : 'Nobody has tried.';
  if (n < FEW) {
    const people = n === 1 ? 'One trainee' : `${n} trainees`;
    return `${people}, ${passed === n ? 'all passed' : passed === 0 ? 'none has passed' : `${passed} passed`}: too few for a median.`;
  }
  const open = n - passed;
  const rest = open === 0 ? 'all have passed' : `${open} of ${n} have not passed yet and are counted as such`;
  if (median === null) return `Fewer than half have passed so far; ${rest}.`;
  const whole = (x: number): string => (Number.isInteger(x) ? String(x) : x.toFixed(1));
  const range =
    medianLow === null && medianHigh === null
      ? ''
      : ` (95 % interval ${medianLow === null ? 'none' : whole(medianLow)} to ${medianHigh === null ? 'open' : whole(medianHigh)})`;
  const one = unit === 'attempts' && median === 1 ? 'attempt' : unit;
  return `Half have passed after ${whole(median)} ${one}${range}; ${rest}.`;
}

/** The learning curve of time, or that there is none to draw. */
export function paceWords(pace: SkillInTime['pace']): string {
  if (!pace) return 'Too few pieces were timed for a curve.';
  const change = Math.round(100 * Math.abs(1 - pace.onDoubling));
  const way = pace.onDoubling < 1 ? 'less' : 'more';
  const first = `About ${Math.round(pace.first)} minutes for a first piece`;
  const fit = pace.r2 === null ? '' : `; that explains ${Math.round(100 * pace.r2)} % of the spread`;
  return change === 0
    ? `${first}, and no change with practice.`
    : `${first}, ${change} % ${way} with every doubling of the attempts${fit}.`;
}
