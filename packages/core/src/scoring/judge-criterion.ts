import type { GradeCriterion, LossCriterion } from '../sheet/index.ts';
import { decimalToNumber } from '../units/index.ts';
import type { CompiledCriterion } from './compile-sheet.ts';
import { numberOf } from './entry-value.ts';
import { judgeBand } from './judge-band.ts';
import { bendSuspected, judgeLoss } from './judge-loss.ts';
import type { ResolvedSlot } from './resolve-entries.ts';
import {
  type CriterionOutcome,
  type CriterionState,
  type Entry,
  type Flag,
  type LossReference,
  type PartOutcome,
  type Reason,
  type Verdict,
  VERDICTS,
} from './types.ts';

interface Judgement {
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

const NONE: readonly never[] = [];
const NOT_SCORED: readonly Reason[] = [{ code: 'open.not_scored', params: {} }];

/** The outcome of one criterion from the entries that stand for it. */
export function judgeCriterion(
  compiled: CompiledCriterion,
  slots: ReadonlyMap<string, ResolvedSlot>,
  references: readonly LossReference[],
): CriterionOutcome {
  const { criterion } = compiled;
  const j =
    criterion.kind === 'loss' ? judgeLossParts(compiled, slots, references) : judgeOne(compiled, slots);
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

/** The entries that may score: witnessed ones, or the trainee's own where the criterion accepts them. */
function standing(slot: ResolvedSlot | undefined, acceptsTrainee: boolean): readonly Entry[] {
  if (!slot) return NONE;
  return slot.heads.length > 0 || !acceptsTrainee ? slot.heads : slot.proposals;
}

function judgeOne(compiled: CompiledCriterion, slots: ReadonlyMap<string, ResolvedSlot>): Judgement {
  const { criterion } = compiled;
  const slot = slots.get(compiled.slots[0]!.key);
  const heads = standing(slot, criterion.acceptsTrainee ?? false);
  const entry = heads[0];
  if (!entry) return openJudgement(slot);
  if (heads.length > 1) return conflict(heads);
  const entryIds = [entry.id];
  if (entry.kind === 'not_seen') return notSeen(entryIds);
  if (entry.kind === 'void') {
    const reason: Reason = { code: 'void.reading', params: { why: entry.voidReason ?? 'setup_broken' } };
    return { state: 'void', verdict: 'void', earned: 0, reasons: [reason], entryIds };
  }
  return { state: 'scored', entryIds, ...judgeValue(compiled, entry) };
}

function openJudgement(slot: ResolvedSlot | undefined): Judgement {
  const proposed = slot !== undefined && slot.proposals.length > 0;
  const reasons: readonly Reason[] = proposed ? [{ code: 'open.proposed', params: {} }] : NOT_SCORED;
  return { state: 'open', verdict: 'incomplete', earned: 0, reasons };
}

function notSeen(entryIds: readonly string[]): Judgement {
  const reasons: readonly Reason[] = [{ code: 'open.not_seen', params: {} }];
  return { state: 'not_seen', verdict: 'incomplete', earned: 0, reasons, entryIds };
}

function conflict(heads: readonly Entry[]): Judgement {
  return {
    state: 'conflict',
    verdict: 'incomplete',
    earned: 0,
    reasons: [{ code: 'open.conflict', params: { count: heads.length } }],
    entryIds: heads.map((h) => h.id),
  };
}

const passes = (verdict: Verdict): boolean => verdict === 'pass' || verdict === 'marginal_pass';

function judgeValue(
  compiled: CompiledCriterion,
  entry: Entry,
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
  const { verdict, reason } = judgeBand(number, compiled.band!);
  return {
    verdict,
    earned: passes(verdict) ? criterion.points : 0,
    value: decimalToNumber(number),
    reasons: reason ? [reason] : NONE,
    flags: value.kind === 'measure' && value.slipConfirmed ? ['decimal_slip_confirmed'] : NONE,
  };
}

function judgeLossParts(
  compiled: CompiledCriterion,
  slots: ReadonlyMap<string, ResolvedSlot>,
  references: readonly LossReference[],
): Judgement {
  const criterion = compiled.criterion as LossCriterion;
  const parts: PartOutcome[] = [];
  const flags = new Set<Flag>();
  const entryIds: string[] = [];
  let unseen = false;
  for (const { part, key, terms } of compiled.slots) {
    const heads = standing(slots.get(key), criterion.acceptsTrainee ?? false);
    if (heads.length > 1) return conflict(heads);
    const entry = heads[0];
    if (!entry || entry.kind === 'not_seen') {
      unseen ||= entry !== undefined;
      parts.push({
        part,
        verdict: 'incomplete',
        lossDb: null,
        limitDb: terms!.limitDb,
        expectedDb: terms!.expectedDb,
        uncertaintyDb: terms!.uncertaintyDb,
        referenceId: null,
        reason: { code: 'loss.part_missing', params: { wavelength: Number(part) } },
      });
      continue;
    }
    entryIds.push(entry.id);
    const judged = judgeLoss(criterion, terms!, entry, references);
    parts.push(judged.outcome);
    judged.flags.forEach((flag) => flags.add(flag));
  }
  if (criterion.link.fiberClass.startsWith('OS') && bendSuspected(parts, criterion.rules.bendStepDb.db)) {
    flags.add('bend_suspected');
  }
  return lossJudgement(criterion, parts, flags, entryIds, unseen);
}

function lossJudgement(
  criterion: LossCriterion,
  parts: readonly PartOutcome[],
  flags: ReadonlySet<Flag>,
  entryIds: readonly string[],
  unseen: boolean,
): Judgement {
  if (entryIds.length === 0) return unseen ? notSeen(entryIds) : openJudgement(undefined);
  const verdict = VERDICTS.find((v) => parts.some((p) => p.verdict === v))!;
  const state: CriterionState =
    verdict === 'void' ? 'void' : verdict === 'incomplete' ? (unseen ? 'not_seen' : 'open') : 'scored';
  return {
    state,
    verdict,
    earned: passes(verdict) ? criterion.points : 0,
    reasons: parts.flatMap((p) => (p.reason ? [p.reason] : [])),
    flags: [...flags],
    parts,
    entryIds,
  };
}
