import { DomainError, requireFinite } from '../domain-error.ts';
import { slackOf } from './individuals.ts';

export const RUN_RULES = [
  'beyond_3',
  'two_of_3_beyond_2',
  'four_of_5_beyond_1',
  'two_of_3_with_last_beyond_2',
  'four_of_5_with_last_beyond_1',
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

/** Takes the points one after the other, from 0; says whether the window that ends with this one is complete and holds. */
type Watch = (i: number) => boolean;

interface Points {
  readonly values: ArrayLike<number>;
  /** Distance from the centre line, 0 within rounding. */
  readonly off: ArrayLike<number>;
  readonly sigma: number;
  readonly slack: number;
}

/**
 * Signals of run rules over values in order of time, each at the last point of every complete window, whether or not that
 * point itself lies beyond; the rules `..._with_last_...` ask that it does. Comparisons are strict, a point on the centre
 * line breaks a run. Unit that of the values; `sigma` of 0 or more. Each point is looked at once a rule. Errors:
 * `stats.not_finite`, `stats.bad_sigma`. Example: nine values above the centre signal `run_of_9` at the ninth; 2.3, 2.4, 0.1
 * sigma signal `two_of_3_beyond_2` at the third.
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
  const watches = rules.map((rule) => ({ rule, holds: watchOf(rule, { values, off, sigma, slack }) }));
  const signals: RuleSignal[] = [];
  for (let at = 0; at < off.length; at++) {
    for (const { rule, holds } of watches) if (holds(at)) signals.push({ rule, at });
  }
  return signals;
}

function watchOf(rule: RunRule, points: Points): Watch {
  const { values, off, sigma, slack } = points;
  const beyond = (k: number, side: 1 | -1) => (i: number) => side * off[i]! > k * sigma + slack;
  const step = (i: number): number => (i < 1 ? 0 : values[i]! - values[i - 1]!);
  switch (rule) {
    case 'beyond_3':
      return either(beyond(3, 1), beyond(3, -1));
    case 'two_of_3_beyond_2':
      return either(some(3, 2, beyond(2, 1)), some(3, 2, beyond(2, -1)));
    case 'four_of_5_beyond_1':
      return either(some(5, 4, beyond(1, 1)), some(5, 4, beyond(1, -1)));
    case 'two_of_3_with_last_beyond_2':
      return either(someWithLast(3, 2, beyond(2, 1)), someWithLast(3, 2, beyond(2, -1)));
    case 'four_of_5_with_last_beyond_1':
      return either(someWithLast(5, 4, beyond(1, 1)), someWithLast(5, 4, beyond(1, -1)));
    case 'run_of_8':
    case 'run_of_9': {
      const n = rule === 'run_of_8' ? 8 : 9;
      return either(
        run(n, (i) => off[i]! > 0),
        run(n, (i) => off[i]! < 0),
      );
    }
    // Six points are five steps, and fourteen are twelve turns.
    case 'six_in_one_direction':
      return either(
        run(5, (i) => step(i) > slack),
        run(5, (i) => step(i) < -slack),
      );
    case 'fourteen_alternating':
      return run(12, (i) => {
        const now = step(i);
        const before = step(i - 1);
        return (now > slack && before < -slack) || (now < -slack && before > slack);
      });
    case 'fifteen_within_1':
      return run(15, (i) => sigma > 0 && Math.abs(off[i]!) < sigma - slack);
    case 'eight_beyond_1':
      return run(8, (i) => Math.abs(off[i]!) > sigma + slack);
    default:
      return rule satisfies never;
  }
}

/** Both are asked at each point: either keeps its own count. */
function either(first: Watch, second: Watch): Watch {
  return (i) => {
    const one = first(i);
    return second(i) || one;
  };
}

function run(n: number, holds: Watch): Watch {
  let length = 0;
  return (i) => {
    length = holds(i) ? length + 1 : 0;
    return length >= n;
  };
}

function some(n: number, least: number, holds: Watch): Watch {
  let count = 0;
  return (i) => {
    if (holds(i)) count += 1;
    if (i >= n && holds(i - n)) count -= 1;
    return i + 1 >= n && count >= least;
  };
}

function someWithLast(n: number, least: number, holds: Watch): Watch {
  const enough = some(n, least, holds);
  return (i) => {
    const counted = enough(i);
    return counted && holds(i);
  };
}
