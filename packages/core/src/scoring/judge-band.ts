import type { Band, Limit, StatedUncertainty } from '../sheet/index.ts';
import {
  addDecimal,
  compareDecimal,
  type Decimal,
  decimalToText,
  subtractDecimal,
  toBaseUnit,
  type Unit,
} from '../units/index.ts';
import type { Reason, Verdict } from './types.ts';

interface CompiledEnd {
  readonly limit: Decimal;
  readonly exclusive: boolean;
  /** Limit less and plus the uncertainty; equal to the limit without one. */
  readonly inner: Decimal;
  readonly outer: Decimal;
  readonly params: Readonly<Record<string, string>>;
}

export interface CompiledBand {
  readonly lower: CompiledEnd | null;
  readonly upper: CompiledEnd | null;
  readonly guarded: boolean;
}

/** Limits of a band in the base unit, converted exactly once per sheet. */
export function compileBand(band: Band, unit: Unit, uncertainty?: StatedUncertainty): CompiledBand {
  const u = uncertainty ? toBaseUnit(uncertainty.value, unit) : { digits: 0n, scale: 0 };
  const end = (limit: Limit | undefined, sign: 1 | -1): CompiledEnd | null => {
    if (!limit) return null;
    const value = toBaseUnit(limit.value, unit);
    const narrower = sign === 1 ? subtractDecimal(value, u) : addDecimal(value, u);
    const wider = sign === 1 ? addDecimal(value, u) : subtractDecimal(value, u);
    return {
      limit: value,
      exclusive: limit.exclusive ?? false,
      inner: narrower,
      outer: wider,
      params: { limit: limit.value, unit, source: limit.source.kind, uncertainty: uncertainty?.value ?? '0' },
    };
  };
  return { lower: end(band.lower, -1), upper: end(band.upper, 1), guarded: u.digits !== 0n };
}

export interface BandJudgement {
  readonly verdict: Verdict;
  readonly reason: Reason | null;
}

const RANK: Readonly<Record<string, number>> = { fail: 0, marginal_fail: 1, marginal_pass: 2, pass: 3 };

/**
 * Judges a value (base unit) against a band: limits inclusive unless exclusive, exact decimal comparison.
 * With an expanded uncertainty U: value <= limit - U pass, <= limit marginal pass, <= limit + U marginal
 * fail, above it fail; edges go to the better verdict; a lower limit mirrored; a band takes the worse of
 * both ends (ISO 14253-1, JCGM 106). Example: 1.05 against an upper 1.0 with U 0.1 is a marginal fail.
 */
export function judgeBand(value: Decimal, band: CompiledBand): BandJudgement {
  const upper = judgeEnd(value, band.upper, 1, band.guarded);
  const lower = judgeEnd(value, band.lower, -1, band.guarded);
  return RANK[lower.verdict]! < RANK[upper.verdict]! ? lower : upper;
}

const PASS: BandJudgement = { verdict: 'pass', reason: null };

function judgeEnd(value: Decimal, end: CompiledEnd | null, sign: 1 | -1, guarded: boolean): BandJudgement {
  if (!end) return PASS;
  const against = (edge: Decimal): number => sign * compareDecimal(value, edge);
  const atLimit = against(end.limit);
  const within = end.exclusive ? atLimit < 0 : atLimit <= 0;
  if (within && (!guarded || against(end.inner) <= 0)) return PASS;
  const params = { value: decimalToText(value), ...end.params };
  if (within) return { verdict: 'marginal_pass', reason: { code: 'band.marginal', params } };
  const side = sign === 1 ? 'over' : 'under';
  if (guarded && against(end.outer) <= 0) {
    return { verdict: 'marginal_fail', reason: { code: `band.marginal_${side}`, params } };
  }
  return { verdict: 'fail', reason: { code: `band.${side}`, params } };
}
