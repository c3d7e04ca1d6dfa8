import type { Trace } from './trace.ts';

/** What of the trace is noise: a power that is the same everywhere, and the steps of the file. */
export interface TraceNoise {
  /** Standard deviation of one point as a power, 10^(level / 5). */
  readonly power: number;
  /** Deviation by rounding to the steps of the file, dB. */
  readonly stepDb: number;
}

const STEP_DB = 0.001 / Math.sqrt(12);
/** The last part of a trace, which lies behind the fiber where the range was chosen as it should be. */
const TAIL = 0.08;
const LEAST_TAIL = 40;
/** More would not be known better than it has to be. */
const MOST_TAIL = 4000;
/** In noise about half of the points are below zero power and stand at the lowest level. */
const LEAST_AT_FLOOR = 0.2;
/** 5 / ln 10: a small part of the power as one-way dB. */
export const DB_OF_PART = 5 / Math.LN10;

/** One-way level of a power. */
export const levelOf = (power: number): number => (power > 0 ? 5 * Math.log10(power) : -Infinity);
/** Power of a one-way level. */
export const powerOf = (levelDb: number): number => 10 ** (levelDb / 5);

/**
 * Noise from the trace itself: where its end is noise, from the points there (those below zero power stand at the lowest level, so the
 * mean square of all is half the variance); otherwise from second differences, whose variance is six times that of a point.
 */
export function noiseOf({ levelsDb }: Pick<Trace, 'levelsDb'>): TraceNoise {
  const wanted = Math.min(MOST_TAIL, Math.max(LEAST_TAIL, Math.round(levelsDb.length * TAIL)));
  const tail = levelsDb.subarray(Math.max(0, levelsDb.length - wanted));
  const floor = tail.reduce((least, v) => Math.min(least, v), 0);
  let atFloor = 0;
  let squares = 0;
  for (const v of tail) {
    if (v <= floor) atFloor += 1;
    else squares += powerOf(v) ** 2;
  }
  const isNoise = atFloor / tail.length >= LEAST_AT_FLOOR;
  const power = isNoise ? Math.sqrt((2 * squares) / tail.length) : fromDifferences(levelsDb);
  return { power, stepDb: STEP_DB };
}

/** Median of absolute second differences, as a power at the median level: robust against events. */
function fromDifferences(levels: Float64Array): number {
  const powers: number[] = [];
  for (let i = 2; i < levels.length; i++) {
    const bend = levels[i]! - 2 * levels[i - 1]! + levels[i - 2]!;
    powers.push((Math.abs(bend) / DB_OF_PART) * powerOf(levels[i - 1]!));
  }
  powers.sort((a, b) => a - b);
  // 0.6745: the median of the absolute of a normal deviate.
  return (powers[Math.floor(powers.length / 2)] ?? 0) / 0.6745 / Math.sqrt(6);
}

/** Standard deviation of one point at a level, dB. */
export const sdAt = ({ power, stepDb }: TraceNoise, levelDb: number): number =>
  Math.hypot((DB_OF_PART * power) / powerOf(levelDb), stepDb);
