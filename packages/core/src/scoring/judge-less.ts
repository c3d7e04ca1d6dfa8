import type { MeasureCriterion } from '../sheet/index.ts';
import { decimalToNumber, decimalToText, subtractDecimal } from '../units/index.ts';
import { numberOf } from './entry-value.ts';
import { type CompiledBand, judgeBand } from './judge-band.ts';
import type { Judgement } from './judgement.ts';
import { type CriterionOutcome, type Entry, type EntryValue, isPass } from './types.ts';

/**
 * Judges a length less another one of the same sheet, exact in decimals: waits while the other is open, is void with it, and
 * fails with what is missing where it is the shorter of the two. The value is the difference in the base unit.
 * Example: a strip of 900 mm less a tube of 860 mm is 40 mm, against at least 20.
 */
export function judgeLess(
  criterion: MeasureCriterion,
  band: CompiledBand,
  value: EntryValue & { readonly kind: 'measure' },
  about: CriterionOutcome | null,
  other: Entry | null,
): Judgement {
  const params = { criterion: criterion.less! };
  if (about?.state === 'void') {
    return { state: 'void', verdict: 'void', earned: 0, reasons: [{ code: 'void.follows', params }] };
  }
  if (about?.state !== 'scored' || other?.value?.kind !== 'measure') {
    return {
      state: 'open',
      verdict: 'incomplete',
      earned: 0,
      reasons: [{ code: 'call.reference_open', params }],
    };
  }
  const difference = subtractDecimal(numberOf(value)!, numberOf(other.value)!);
  const left = decimalToNumber(difference);
  if (left < 0) {
    const by = decimalToText(subtractDecimal(numberOf(other.value)!, numberOf(value)!));
    const reason = { code: 'band.shorter_than', params: { ...params, by, unit: criterion.unit } } as const;
    return { state: 'scored', verdict: 'fail', earned: 0, value: left, reasons: [reason] };
  }
  const { verdict, reason } = judgeBand(difference, band);
  return {
    state: 'scored',
    verdict,
    earned: isPass(verdict) ? criterion.points : 0,
    value: left,
    reasons: reason ? [reason] : [],
  };
}
