import { mean, powerMeanDb, sampleSd, skewnessG1 } from './moments.ts';
import { quantileOfSorted, scaledMadOfSorted, sorted } from './quantile.ts';

export interface Description {
  readonly n: number;
  readonly mean: number;
  readonly sd: number | null;
  readonly median: number;
  readonly mad: number;
  readonly q05: number;
  readonly q25: number;
  readonly q75: number;
  readonly q95: number;
  readonly min: number;
  readonly max: number;
  readonly skewness: number | null;
}

/**
 * Description of a sample: n, mean, sample SD (n - 1), median, scaled MAD, quantiles type 7, ends, G1.
 * Unit that of the values. Null for an empty sample. Error: `stats.not_finite`. Sources as `sampleSd`, `quantileOfSorted`,
 * `scaledMad` and `skewnessG1`. Example: 1, 2, 4 has mean 2.333, median 2, SD 1.528.
 */
export function describe(values: ArrayLike<number>): Description | null {
  if (values.length === 0) return null;
  const rising = sorted(values);
  return {
    n: rising.length,
    mean: mean(rising),
    sd: sampleSd(rising),
    median: quantileOfSorted(rising, 0.5),
    mad: scaledMadOfSorted(rising),
    q05: quantileOfSorted(rising, 0.05),
    q25: quantileOfSorted(rising, 0.25),
    q75: quantileOfSorted(rising, 0.75),
    q95: quantileOfSorted(rising, 0.95),
    min: rising[0]!,
    max: rising[rising.length - 1]!,
    skewness: skewnessG1(rising),
  };
}

export interface LossDescription extends Description {
  readonly powerMeanDb: number;
  readonly over: number;
  readonly meanDistanceToLimitDb: number;
}

/**
 * A loss sample (dB) against its limit (dB): the description as `describe`, how many are over, mean of limit - loss. Null for
 * an empty sample. Errors as `describe`. Example: 0.2, 0.5, 0.8 against 0.75 has one over and the mean distance 0.25.
 */
export function describeLoss(lossesDb: ArrayLike<number>, limitDb: number): LossDescription | null {
  const base = describe(lossesDb);
  if (!base) return null;
  let over = 0;
  for (let i = 0; i < lossesDb.length; i++) if (lossesDb[i]! > limitDb + 1e-6) over += 1;
  return {
    ...base,
    powerMeanDb: powerMeanDb(lossesDb),
    over,
    meanDistanceToLimitDb: limitDb - base.mean,
  };
}
