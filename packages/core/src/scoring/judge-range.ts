import { rowSpread } from '../loss/index.ts';
import type { MeasureCriterion } from '../sheet/index.ts';
import { decimalToNumber, parseDecimal } from '../units/index.ts';
import { type CompiledBand, judgeBand } from './judge-band.ts';
import type { Judgement } from './judgement.ts';
import { type CriterionOutcome, isLossPart, isPass } from './types.ts';

/** Digits of a dB that a range is told to: far below what any meter shows, so that no sum of doubles decides at a limit. */
const DIGITS = 6;

/**
 * Judges the range of a row, most less least of the losses in dB that were read at one wavelength and direction; the widest
 * counts. It waits until the row is read, and is void with it. Fibers without light, or void, are in no range.
 * Example: twelve fibers from 0.41 to 0.93 dB have a range of 0.52 dB.
 */
export function judgeRange(
  criterion: MeasureCriterion,
  band: CompiledBand,
  row: CriterionOutcome | null,
): Judgement {
  if (row?.state === 'void') {
    const params = { criterion: criterion.rangeOf! };
    return { state: 'void', verdict: 'void', earned: 0, reasons: [{ code: 'void.follows', params }] };
  }
  const read = (row?.parts ?? [])
    .filter(isLossPart)
    .flatMap(({ part, lossDb, verdict }) =>
      lossDb === null || verdict === 'void' ? [] : [{ part, lossDb }],
    );
  const ranges = row?.state === 'scored' ? rowSpread(read, 0) : [];
  if (ranges.length === 0) return { state: 'open', verdict: 'incomplete', earned: 0 };
  const widest = parseDecimal(Math.max(...ranges.map((r) => r.spreadDb)).toFixed(DIGITS));
  const { verdict, reason } = judgeBand(widest, band);
  return {
    state: 'scored',
    verdict,
    earned: isPass(verdict) ? criterion.points : 0,
    value: decimalToNumber(widest),
    reasons: reason ? [reason] : [],
  };
}
