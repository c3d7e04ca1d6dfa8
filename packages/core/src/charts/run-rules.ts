import { DomainError, requireFinite } from '../domain-error.ts';
import { slackOf } from './individuals.ts';

export const RUN_RULES = [
  'beyond_3',
  'two_of_3_beyond_2',
  'four_of_5_beyond_1',
  'run_of_8',
  'run_of_9',
  'six_in_one_direction',
  'fourteen_alternating',
  'fifteen_within_1',
  'eight_beyond_1',
] as const;
export type RunRule = (typeof RUN_RULES)[number];

/** Western Electric (1956), Statistical Quality Control Handbook: the four tests for one half of a chart. */
export const WESTERN_ELECTRIC: readonly RunRule[] = [
  'beyond_3',
  'two_of_3_beyond_2',
  'four_of_5_beyond_1',
  'run_of_8',
];
/** Nelson (1984), Journal of Quality Technology 16:237-239: eight tests, runs of 9. */
export const NELSON: readonly RunRule[] = [
  'beyond_3',
  'run_of_9',
  'six_in_one_direction',
  'fourteen_alternating',
  'two_of_3_beyond_2',
  'four_of_5_beyond_1',
  'fifteen_within_1',
  'eight_beyond_1',
];

export interface RuleSignal {
  readonly rule: RunRule;
  /** The last point of the window, from 0. */
  readonly at: number;
}

/**
 * Signals of run rules over values in order of time, each at the last point of every complete window. Comparisons are
 * strict, a point on the centre line breaks a run. Unit that of the values; `sigma` of 0 or more. Errors:
 * `stats.not_finite`, `stats.bad_sigma`. Example: nine values above the centre signal `run_of_9` at the ninth.
 */
export function runSignals(
  values: ArrayLike<number>,
  centre: number,
  sigma: number,
  rules: readonly RunRule[],
): RuleSignal[] {
  requireFinite(values);
  requireFinite([centre]);
  if (!(sigma >= 0) || sigma === Infinity) throw new DomainError('stats.bad_sigma', { sigma });
  const slack = Math.max(slackOf(values), 1e-9 * Math.abs(centre));
  const off = Float64Array.from(values, (v) => (Math.abs(v - centre) <= slack ? 0 : v - centre));
  const beyond = (i: number, k: number, side: number): boolean => side * off[i]! > k * sigma + slack;
  const holds = (i: number, rule: RunRule): boolean => {
    const window = (n: number): number[] =>
      i + 1 < n ? [] : Array.from({ length: n }, (_, k) => i + 1 - n + k);
    const some = (n: number, least: number, k: number): boolean =>
      [1, -1].some(
        (side) => beyond(i, k, side) && window(n).filter((j) => beyond(j, k, side)).length >= least,
      );
    const whole = (n: number, each: (j: number) => boolean): boolean => i + 1 >= n && window(n).every(each);
    switch (rule) {
      case 'beyond_3':
        return beyond(i, 3, 1) || beyond(i, 3, -1);
      case 'two_of_3_beyond_2':
        return some(3, 2, 2);
      case 'four_of_5_beyond_1':
        return some(5, 4, 1);
      case 'run_of_8':
      case 'run_of_9': {
        const n = rule === 'run_of_8' ? 8 : 9;
        return [1, -1].some((side) => whole(n, (j) => side * off[j]! > 0));
      }
      case 'six_in_one_direction':
        return [1, -1].some((side) =>
          whole(6, (j) => j === i - 5 || side * (values[j]! - values[j - 1]!) > slack),
        );
      case 'fourteen_alternating':
        return whole(14, (j) => {
          if (j < i - 11) return true;
          const [a, b] = [values[j]! - values[j - 1]!, values[j - 1]! - values[j - 2]!];
          return (a > slack && b < -slack) || (a < -slack && b > slack);
        });
      case 'fifteen_within_1':
        return sigma > 0 && whole(15, (j) => Math.abs(off[j]!) < sigma - slack);
      case 'eight_beyond_1':
        return whole(8, (j) => beyond(j, 1, 1) || beyond(j, 1, -1));
      default:
        return rule satisfies never;
    }
  };
  const signals: RuleSignal[] = [];
  for (let at = 0; at < off.length; at++) {
    for (const rule of rules) if (holds(at, rule)) signals.push({ rule, at });
  }
  return signals;
}
