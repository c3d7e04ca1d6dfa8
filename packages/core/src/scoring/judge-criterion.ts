import { type GradeCriterion, isWorkedOut, type Source } from '../sheet/index.ts';
import { decimalToNumber } from '../units/index.ts';
import type { CompiledCriterion } from './compile-sheet.ts';
import { numberOf } from './entry-value.ts';
import { type CompiledBand, compileBand, judgeBand } from './judge-band.ts';
import { judgeCall } from './judge-call.ts';
import { judgeLess } from './judge-less.ts';
import { judgeRange } from './judge-range.ts';
import { calibrationOverdue } from './judge-loss.ts';
import { judgeMap } from './judge-map.ts';
import { judgeParts } from './judge-parts.ts';
import { conflict, type Judgement, NONE, notSeen, openJudgement, standing } from './judgement.ts';
import { type ResolvedSlot, slotKey } from './resolve-entries.ts';
import {
  isPass,
  type CriterionOutcome,
  type Entry,
  type EntryValue,
  type Flag,
  type JudgingContext,
  type Reason,
} from './types.ts';

/** The outcome of one criterion from the entries that stand for it. `about` is the outcome of the one it hangs on. */
export function judgeCriterion(
  compiled: CompiledCriterion,
  slots: ReadonlyMap<string, ResolvedSlot>,
  context: JudgingContext,
  about: CriterionOutcome | null = null,
): CriterionOutcome {
  const { criterion } = compiled;
  const j =
    criterion.kind === 'loss' || criterion.kind === 'readings'
      ? judgeParts(compiled, slots, context, about)
      : judgeOne(compiled, slots, context, about);
  return {
    criterionId: criterion.id,
    stepId: compiled.step.id,
    ...chargedSkill(compiled, j, slots),
    state: j.state,
    verdict: j.verdict,
    points: criterion.points,
    earned: j.earned,
    required: criterion.required,
    critical: criterion.critical,
    stop: criterion.stop ?? false,
    value: j.value ?? null,
    reasons: j.reasons ?? NONE,
    flags: j.flags ?? NONE,
    parts: j.parts ?? NONE,
    entryIds: j.entryIds ?? NONE,
    faults: j.faults ?? NONE,
  };
}

/**
 * The skill that a criterion counts in. A failure may be charged to its cause, only by the recorded choice of an
 * instructor; two choices that do not know of each other charge nothing.
 */
function chargedSkill(
  compiled: CompiledCriterion,
  judged: Judgement,
  slots: ReadonlyMap<string, ResolvedSlot>,
): Pick<CriterionOutcome, 'skill' | 'chargedFrom'> {
  const own = { skill: compiled.skill, chargedFrom: null };
  if (judged.verdict !== 'fail' && judged.verdict !== 'marginal_fail') return own;
  const heads = slots.get(compiled.chargeKey)?.heads ?? NONE;
  const value = heads.length === 1 ? heads[0]!.value : null;
  if (value?.kind !== 'charge' || value.skill === compiled.skill) return own;
  return { skill: value.skill, chargedFrom: compiled.skill };
}

function judgeOne(
  compiled: CompiledCriterion,
  slots: ReadonlyMap<string, ResolvedSlot>,
  { timeZone }: JudgingContext,
  about: CriterionOutcome | null,
): Judgement {
  const { criterion } = compiled;
  const slot = slots.get(compiled.slots[0]!.key);
  const heads = standing(slot, criterion.acceptsTrainee ?? false);
  const entry = heads[0];
  // What was typed before it was worked out stands for nothing.
  if (isWorkedOut(criterion) && entry?.kind !== 'not_seen') {
    return judgeRange(criterion, compiled.band!, about);
  }
  if (!entry) return openJudgement(slot);
  if (heads.length > 1) return conflict(heads);
  const entryIds = [entry.id];
  if (entry.kind === 'not_seen') return notSeen(entryIds);
  if (entry.kind === 'void') {
    const reason: Reason = { code: 'void.reading', params: { why: entry.voidReason ?? 'setup_broken' } };
    return { state: 'void', verdict: 'void', earned: 0, reasons: [reason], entryIds };
  }
  const { value } = entry;
  if (criterion.kind === 'map' && value?.kind === 'map')
    return { ...judgeMap(criterion, value.far), entryIds };
  if (criterion.kind === 'call' && value?.kind === 'call')
    return { ...judgeCall(criterion, value, about), entryIds };
  if (criterion.kind === 'measure' && criterion.less !== undefined && value?.kind === 'measure') {
    const other = about?.entryIds[0] === undefined ? null : entryOf(slots, criterion.less, about.entryIds[0]);
    return { ...judgeLess(criterion, compiled.band!, value, about, other), entryIds };
  }
  return { state: 'scored', entryIds, ...judgeValue(compiled, entry, timeZone) };
}

/** The entry that stands for another criterion of one part. */
const entryOf = (slots: ReadonlyMap<string, ResolvedSlot>, criterionId: string, id: string): Entry | null =>
  slots.get(slotKey(criterionId, ''))?.heads.find((e) => e.id === id) ?? null;

function judgeValue(
  compiled: CompiledCriterion,
  entry: Entry,
  timeZone: string,
): Pick<Judgement, 'verdict' | 'earned' | 'value' | 'reasons' | 'flags' | 'faults'> {
  const { criterion } = compiled;
  const value = entry.value!;
  if (value.kind === 'check') {
    if (value.passed) return { verdict: 'pass', earned: criterion.points };
    const faults = value.faults ?? NONE;
    const params = { faults: faults.join(' ') };
    return { verdict: 'fail', earned: 0, reasons: [{ code: 'check.failed', params }], faults };
  }
  if (value.kind === 'grade') {
    const level = (criterion as GradeCriterion).levels.find((l) => l.id === value.level)!;
    const reasons: readonly Reason[] =
      level.verdict === 'pass'
        ? NONE
        : [{ code: 'grade.level', params: { level: level.label, id: level.id } }];
    return { verdict: level.verdict, earned: level.points, reasons };
  }
  const number = numberOf(value)!;
  const { verdict, reason } = judgeBand(number, bandFor(compiled, value));
  return {
    verdict,
    earned: isPass(verdict) ? criterion.points : 0,
    value: decimalToNumber(number),
    reasons: reason ? [reason] : NONE,
    flags: flagsOf(value, entry.at, timeZone),
  };
}

/** A value that was measured in a picture is judged with the uncertainty that it was measured with. */
function bandFor({ criterion, band }: CompiledCriterion, value: EntryValue): CompiledBand {
  if (criterion.kind !== 'measure' || value.kind !== 'measure' || !value.picture) return band!;
  const uncertainty = { value: value.picture.expanded, source: MEASURED };
  return compileBand(criterion.band, criterion.unit, uncertainty);
}
const MEASURED: Source = { kind: 'house', fromMemory: false, words: 'the picture’s own uncertainty' };

function flagsOf(value: EntryValue, at: string, timeZone: string): readonly Flag[] {
  if (value.kind !== 'measure') return NONE;
  const overdue = calibrationOverdue(value.instrument, at, timeZone);
  if (!value.slipConfirmed && !overdue) return NONE;
  return [
    ...(value.slipConfirmed ? (['decimal_slip_confirmed'] as const) : []),
    ...(overdue ? (['calibration_overdue'] as const) : []),
  ];
}
