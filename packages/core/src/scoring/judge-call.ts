import type { CallCriterion } from '../sheet/index.ts';
import { type Judgement } from './judgement.ts';
import { isPass, isMarginal, type Call, type CriterionOutcome, type EntryValue } from './types.ts';

/**
 * Judges what the trainee said of a piece against the verdict of the criterion that it is about, or the reference
 * given with it. Agreement passes. A wrong call on a marginal result is a marginal fail: within the uncertainty
 * nobody can tell. A call on a void result is void with it; one on an open result waits for it.
 * The fault is named: `called_bad_good` or `called_good_bad`.
 */
export function judgeCall(
  criterion: CallCriterion,
  value: EntryValue & { kind: 'call' },
  about: CriterionOutcome | null,
): Judgement {
  if (about?.state === 'void') {
    const reasons = [{ code: 'void.follows', params: { criterion: about.criterionId } } as const];
    return { state: 'void', verdict: 'void', earned: 0, reasons };
  }
  if (about && about.state !== 'scored') {
    const reasons = [{ code: 'call.reference_open', params: { criterion: about.criterionId } } as const];
    return { state: 'open', verdict: 'incomplete', earned: 0, reasons };
  }
  const truth: Call = about ? (isPass(about.verdict) ? 'pass' : 'fail') : value.reference!;
  if (value.said === truth) return { state: 'scored', verdict: 'pass', earned: criterion.points };
  const marginal = about !== null && isMarginal(about.verdict);
  const mistake =
    value.said === 'pass'
      ? ({ code: 'call.bad_called_good', fault: 'called_bad_good' } as const)
      : ({ code: 'call.good_called_bad', fault: 'called_good_bad' } as const);
  return {
    state: 'scored',
    verdict: marginal ? 'marginal_fail' : 'fail',
    earned: 0,
    reasons: [{ code: mistake.code, params: {} }],
    faults: [mistake.fault],
  };
}
