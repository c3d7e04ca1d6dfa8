import { type Criterion, toBaseUnit, unitOf, decimalToNumber, type Band } from '@clear-mark/core';

export interface BandScale {
  /** Ends of the drawing, in the criterion's base unit. */
  readonly from: number;
  readonly to: number;
  readonly lower: number | null;
  readonly upper: number | null;
  readonly target: number | null;
}

/**
 * The stretch of numbers that a band is drawn over: the band with its own width on either side, or from zero
 * to twice a single limit. `at` keeps a far value on the drawing, at its edge.
 */
export function scaleOfBand(band: Band, toNumber: (text: string) => number): BandScale {
  const lower = band.lower ? toNumber(band.lower.value) : null;
  const upper = band.upper ? toNumber(band.upper.value) : null;
  const target = band.target === undefined ? null : toNumber(band.target);
  if (lower !== null && upper !== null) {
    const width = upper - lower || Math.abs(upper) || 1;
    return { from: Math.max(0, lower - width), to: upper + width, lower, upper, target };
  }
  const only = (upper ?? lower)!;
  return { from: 0, to: only === 0 ? 1 : only * 2, lower, upper, target };
}

export function bandOfCriterion(criterion: Criterion): BandScale | null {
  if (criterion.kind !== 'measure' && criterion.kind !== 'count' && criterion.kind !== 'timed') return null;
  const unit = unitOf(criterion);
  return scaleOfBand(criterion.band, (text) => decimalToNumber(toBaseUnit(text, unit)));
}

/** Where a value falls, as a share of the drawing from 0 to 1; outside it is held at the edge. */
export function shareOn(scale: BandScale, value: number): { share: number; outside: -1 | 0 | 1 } {
  const share = (value - scale.from) / (scale.to - scale.from);
  if (share < 0) return { share: 0, outside: -1 };
  if (share > 1) return { share: 1, outside: 1 };
  return { share, outside: 0 };
}
