import type { ResolvedSlot } from './resolve-entries.ts';
import type { CriterionState, Entry, Flag, PartOutcome, Reason, Verdict } from './types.ts';

/** What judging makes of one criterion, before its place on the sheet is added. */
export interface Judgement {
  readonly state: CriterionState;
  readonly verdict: Verdict;
  readonly earned: number;
  readonly value?: number | null;
  readonly reasons?: readonly Reason[];
  readonly flags?: readonly Flag[];
  readonly parts?: readonly PartOutcome[];
  readonly entryIds?: readonly string[];
  readonly faults?: readonly string[];
}

export const NONE: readonly never[] = [];
const NOT_SCORED: readonly Reason[] = [{ code: 'open.not_scored', params: {} }];

/** The entries that may score: witnessed ones, or the trainee's own where the criterion accepts them. */
export function standing(slot: ResolvedSlot | undefined, acceptsTrainee: boolean): readonly Entry[] {
  if (!slot) return NONE;
  return slot.heads.length > 0 || !acceptsTrainee ? slot.heads : slot.proposals;
}

export function openJudgement(slot: ResolvedSlot | undefined): Judgement {
  const proposed = slot !== undefined && slot.proposals.length > 0;
  const reasons: readonly Reason[] = proposed ? [{ code: 'open.proposed', params: {} }] : NOT_SCORED;
  return { state: 'open', verdict: 'incomplete', earned: 0, reasons };
}

export function notSeen(entryIds: readonly string[]): Judgement {
  const reasons: readonly Reason[] = [{ code: 'open.not_seen', params: {} }];
  return { state: 'not_seen', verdict: 'incomplete', earned: 0, reasons, entryIds };
}

export const conflictReason = (count: number): Reason => ({ code: 'open.conflict', params: { count } });

export function conflict(heads: readonly Entry[]): Judgement {
  return {
    state: 'conflict',
    verdict: 'incomplete',
    earned: 0,
    reasons: [conflictReason(heads.length)],
    entryIds: heads.map((h) => h.id),
  };
}
