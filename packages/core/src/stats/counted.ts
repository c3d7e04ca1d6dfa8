import { DomainError, requireFinite } from '../domain-error.ts';
import type { Description, LossDescription } from './describe.ts';

/** A sample as its different values in rising order and how often each is there. */
export interface CountedSample {
  readonly values: ArrayLike<number>;
  readonly counts: ArrayLike<number>;
}

/** Value at a position of the whole sample in rising order, and the one after it. */
function ranked({ values, counts }: CountedSample, position: number): readonly [number, number] {
  let seen = 0;
  for (let i = 0; i < values.length; i++) {
    seen += counts[i]!;
    if (position < seen - 1) return [values[i]!, values[i]!];
    if (position === seen - 1) return [values[i]!, values[Math.min(i + 1, values.length - 1)]!];
  }
  return [values[values.length - 1]!, values[values.length - 1]!];
}

/** Quantile, type 7 of Hyndman & Fan (1996). */
function quantileOf(sample: CountedSample, n: number, p: number): number {
  const h = (n - 1) * p;
  const below = Math.floor(h);
  const [low, high] = ranked(sample, below);
  return low + (h - below) * (high - low);
}

/**
 * `describeLoss` of a sample given by its different values: as long as there are values, not readings. Input: finite losses in
 * dB, strictly rising, whole counts of 1 and more; limit in dB. Null for none. Errors: `stats.not_finite`, `stats.bad_count`,
 * `stats.not_paired`. The same as `describeLoss` of the readings to 1e-12 relative. Example: 0.2 twice and 0.5 once has the
 * median 0.2 and the mean 0.3.
 */
export function describeLossCounts(sample: CountedSample, limitDb: number): LossDescription | null {
  const { values, counts } = sample;
  requireFinite(values);
  if (counts.length !== values.length) {
    throw new DomainError('stats.not_paired', { first: values.length, second: counts.length });
  }
  let n = 0;
  for (let i = 0; i < counts.length; i++) {
    if (!Number.isInteger(counts[i]) || counts[i]! < 1)
      throw new DomainError('stats.bad_count', { index: i });
    n += counts[i]!;
  }
  if (n === 0) return null;
  const sum = (of: (value: number) => number): number => {
    let total = 0;
    let lost = 0;
    for (let i = 0; i < values.length; i++) {
      // Neumaier's compensated sum.
      const x = counts[i]! * of(values[i]!);
      const next = total + x;
      lost += Math.abs(total) >= Math.abs(x) ? total - next + x : x - next + total;
      total = next;
    }
    return total + lost;
  };
  // Never outside of the values: a constant sample has itself as its mean, and no skewness.
  const mean = Math.min(values[values.length - 1]!, Math.max(values[0]!, sum((x) => x) / n));
  const squares = sum((x) => (x - mean) ** 2);
  const cubes = sum((x) => (x - mean) ** 3);
  const base: Description = {
    n,
    mean,
    sd: n < 2 ? null : Math.sqrt(squares / (n - 1)),
    median: quantileOf(sample, n, 0.5),
    mad: scaledMadOf(sample, n),
    q05: quantileOf(sample, n, 0.05),
    q25: quantileOf(sample, n, 0.25),
    q75: quantileOf(sample, n, 0.75),
    q95: quantileOf(sample, n, 0.95),
    min: values[0]!,
    max: values[values.length - 1]!,
    skewness:
      n < 3 || squares === 0 ? null : (Math.sqrt(n * (n - 1)) / (n - 2)) * (cubes / n / (squares / n) ** 1.5),
  };
  return {
    ...base,
    powerMeanDb: -10 * Math.log10(sum((x) => 10 ** (-x / 10)) / n),
    over: sum((x) => Number(x > limitDb + 1e-6)),
    meanDistanceToLimitDb: limitDb - mean,
  };
}

function scaledMadOf(sample: CountedSample, n: number): number {
  const centre = quantileOf(sample, n, 0.5);
  const distances = new Map<number, number>();
  for (let i = 0; i < sample.values.length; i++) {
    const distance = Math.abs(sample.values[i]! - centre);
    distances.set(distance, (distances.get(distance) ?? 0) + sample.counts[i]!);
  }
  const rising = [...distances].sort((a, b) => a[0] - b[0]);
  return 1.4826 * quantileOf({ values: rising.map((d) => d[0]), counts: rising.map((d) => d[1]) }, n, 0.5);
}
