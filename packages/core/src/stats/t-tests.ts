import { DomainError } from '../domain-error.ts';
import { studentQuantile, studentTwoSided } from '../special/index.ts';
import { mean, sampleSd } from './moments.ts';

/** Why a mean has no interval. */
export type NoInterval = 'too_few' | 'no_spread';
export type MeanInterval =
  | { readonly kind: 'none'; readonly reason: NoInterval; readonly n: number }
  | {
      readonly kind: 'interval';
      readonly n: number;
      readonly mean: number;
      readonly error: number;
      readonly low: number;
      readonly high: number;
    };
export type TTest =
  | { readonly kind: 'none'; readonly reason: NoInterval }
  | {
      readonly kind: 'test';
      /** Mean of the first less that of the second, its interval at the asked confidence. */
      readonly difference: number;
      readonly low: number;
      readonly high: number;
      readonly t: number;
      readonly freedom: number;
      readonly p: number;
    };

function check(confidence: number): void {
  if (!(confidence > 0 && confidence < 1)) throw new DomainError('stats.bad_probability', { p: confidence });
}

/**
 * Interval of a mean by Student's t (Student 1908). Unit that of the values. No interval, with the reason, for fewer than two values or
 * none that differ. Errors: `stats.not_finite`, `stats.bad_probability`. Relative error under 1e-12 of its width. Example:
 * 1, 2, 4 is 2.333 -+ 3.795.
 */
export function meanInterval(values: ArrayLike<number>, confidence = 0.95): MeanInterval {
  check(confidence);
  const n = values.length;
  if (n < 2) return { kind: 'none', reason: 'too_few', n };
  const m = mean(values);
  const sd = sampleSd(values)!;
  if (!(sd > 0)) return { kind: 'none', reason: 'no_spread', n };
  const error = sd / Math.sqrt(n);
  const half = studentQuantile((1 + confidence) / 2, n - 1) * error;
  return { kind: 'interval', n, mean: m, error, low: m - half, high: m + half };
}

/**
 * Welch's t test of two means without the assumption of equal spread, freedom by Welch and Satterthwaite (Welch 1947);
 * two-sided. Unit that of the values. No answer for fewer than two values of either or no spread in both. Errors and
 * accuracy as `meanInterval`. Example: 1, 2, 3 against 2, 4, 6, 8 is t = -2.121, freedom 4.08.
 */
export function welchTest(first: ArrayLike<number>, second: ArrayLike<number>, confidence = 0.95): TTest {
  check(confidence);
  if (first.length < 2 || second.length < 2) return { kind: 'none', reason: 'too_few' };
  const u = sampleSd(first)! ** 2 / first.length;
  const v = sampleSd(second)! ** 2 / second.length;
  if (!(u + v > 0)) return { kind: 'none', reason: 'no_spread' };
  const freedom = (u + v) ** 2 / (u ** 2 / (first.length - 1) + v ** 2 / (second.length - 1));
  return tested(mean(first) - mean(second), Math.sqrt(u + v), freedom, confidence);
}

/**
 * Paired t test (Student 1908): that of the differences, first less second, pair by pair. Differences that differ by no more than the
 * rounding of the values are one difference: a constant shift has no spread. Errors: as `meanInterval`, and
 * `stats.not_paired` for samples of different size. Example: 5, 7, 9 with 4, 5, 6 is t = 3.464, freedom 2.
 */
export function pairedTest(first: ArrayLike<number>, second: ArrayLike<number>, confidence = 0.95): TTest {
  check(confidence);
  if (first.length !== second.length) {
    throw new DomainError('stats.not_paired', { first: first.length, second: second.length });
  }
  if (first.length < 2) return { kind: 'none', reason: 'too_few' };
  const differences = Float64Array.from(first, (x, i) => x - second[i]!);
  const sd = sampleSd(differences)!;
  if (!(spreadOf(differences) > roundingOf(first, second))) return { kind: 'none', reason: 'no_spread' };
  return tested(mean(differences), sd / Math.sqrt(first.length), first.length - 1, confidence);
}

/** The largest value less the smallest. */
function spreadOf(values: ArrayLike<number>): number {
  let least = Infinity;
  let most = -Infinity;
  for (let i = 0; i < values.length; i++) {
    least = Math.min(least, values[i]!);
    most = Math.max(most, values[i]!);
  }
  return most - least;
}

/** What two differences of decimals may differ by when the decimals do not: each operand and each difference is rounded. */
function roundingOf(...samples: readonly ArrayLike<number>[]): number {
  let size = 0;
  for (const sample of samples) {
    for (let i = 0; i < sample.length; i++) size = Math.max(size, Math.abs(sample[i]!));
  }
  return 4 * Number.EPSILON * size;
}

function tested(difference: number, error: number, freedom: number, confidence: number): TTest {
  const t = difference / error;
  const half = studentQuantile((1 + confidence) / 2, freedom) * error;
  return {
    kind: 'test',
    difference,
    t,
    freedom,
    p: studentTwoSided(t, freedom),
    low: difference - half,
    high: difference + half,
  };
}
