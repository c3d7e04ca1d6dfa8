import { type LossCriterion, parsePart, type ReadingsCriterion } from '../sheet/index.ts';
import { decimalToNumber, meanOfTwo } from '../units/index.ts';
import type { CompiledCriterion, CompiledSlot } from './compile-sheet.ts';
import { numberOf } from './entry-value.ts';
import { judgeBand } from './judge-band.ts';
import { bendSuspected, judgeLoss } from './judge-loss.ts';
import { conflictReason, type Judgement, notSeen, openJudgement, standing } from './judgement.ts';
import type { ResolvedSlot } from './resolve-entries.ts';
import {
  isPass,
  type CriterionOutcome,
  type CriterionState,
  type Entry,
  type Flag,
  isLossPart,
  type JudgingContext,
  type PartOutcome,
  partValue,
  type Reason,
  type Verdict,
  VERDICTS,
} from './types.ts';

interface Collected {
  readonly parts: PartOutcome[];
  readonly flags: Set<Flag>;
  readonly entryIds: string[];
  unseen: boolean;
  conflicts: number;
  readonly conflicting: string[];
}

/**
 * Judges a criterion that is read in parts (fibers, wavelengths, directions): each part on its own, the worst of
 * them decides. A missing part leaves it incomplete, a failing one fails it at once.
 */
export function judgeParts(
  compiled: CompiledCriterion,
  slots: ReadonlyMap<string, ResolvedSlot>,
  context: JudgingContext,
  launch: CriterionOutcome | null = null,
): Judgement {
  const criterion = compiled.criterion as LossCriterion | ReadingsCriterion;
  const found: Collected = {
    parts: [],
    flags: new Set(),
    entryIds: [],
    unseen: false,
    conflicts: 0,
    conflicting: [],
  };
  for (const slot of compiled.slots) judgePart(compiled, slot, slots.get(slot.key), context, found);
  if (criterion.kind === 'loss' && criterion.link.fiberClass.startsWith('OS')) {
    if (bendSuspected(found.parts.filter(isLossPart), criterion.rules.bendStepDb.db)) {
      found.flags.add('bend_suspected');
    }
  }
  if (criterion.kind === 'readings' && criterion.combine)
    return together(criterion, byMean(compiled, slots, found));
  const broken = launch?.state === 'scored' && launch.verdict === 'fail';
  return together(criterion, broken ? notConformant(found) : found);
}

/**
 * One joint seen from both sides takes the mean of the two directions as its value, gains negative in it; each of the two
 * parts then carries the verdict of the mean. One direction alone has no value, and the part that is missing says so.
 */
function byMean(
  compiled: CompiledCriterion,
  slots: ReadonlyMap<string, ResolvedSlot>,
  found: Collected,
): Collected {
  const numberAt = (part: string) => {
    const slot = compiled.slots.find((s) => s.part === part)!;
    const [entry] = standing(slots.get(slot.key), compiled.criterion.acceptsTrainee ?? false);
    return entry?.value ? numberOf(entry.value) : null;
  };
  const parts = found.parts.map((part, i): PartOutcome => {
    const { fiber, wavelengthNm, direction } = compiled.slots[i]!.place;
    const other = compiled.slots.find(
      (s) =>
        s.place.fiber === fiber && s.place.wavelengthNm === wavelengthNm && s.place.direction !== direction,
    );
    if (isLossPart(part) || part.verdict === 'void' || part.verdict === 'incomplete' || !other) return part;
    const own = numberAt(part.part);
    const back = numberAt(other.part);
    if (!own) return part;
    // Alone it is a reading and no value yet.
    if (!back) return { ...part, verdict: 'incomplete', value: null };
    const mean = meanOfTwo(own, back);
    const { verdict, reason } = judgeBand(mean, compiled.band!);
    return { ...part, verdict, value: decimalToNumber(mean), reason };
  });
  return { ...found, parts };
}

/**
 * Without the launch conditioning that the method asks for the numbers stand, but a pass is not accepted, which is a
 * fault of the test, and a fail is to be repeated: both are void, and no light stays no light.
 */
function notConformant(found: Collected): Collected {
  let any = false;
  const parts = found.parts.map((part): PartOutcome => {
    const passed = isPass(part.verdict);
    const failed = part.verdict === 'fail' || part.verdict === 'marginal_fail';
    if (!isLossPart(part) || part.lossDb === null || !(passed || failed)) return part;
    any = true;
    const code = passed ? 'void.not_conformant_pass' : 'void.not_conformant_fail';
    const { fiber, wavelengthNm, direction } = parsePart(part.part);
    const params = {
      ...(fiber === null ? {} : { fiber }),
      ...(wavelengthNm === null ? {} : { wavelength: wavelengthNm }),
      ...(direction === null ? {} : { direction }),
      loss: Math.round(part.lossDb * 1000) / 1000,
    };
    return { ...part, verdict: 'void', reason: { code, params } };
  });
  if (any) found.flags.add('not_conformant');
  return { ...found, parts };
}

function judgePart(
  compiled: CompiledCriterion,
  slot: CompiledSlot,
  resolved: ResolvedSlot | undefined,
  context: JudgingContext,
  found: Collected,
): void {
  const criterion = compiled.criterion as LossCriterion | ReadingsCriterion;
  const heads = standing(resolved, criterion.acceptsTrainee ?? false);
  const entry = heads[0];
  if (heads.length > 1) {
    found.conflicts = Math.max(found.conflicts, heads.length);
    found.conflicting.push(...heads.map((h) => h.id));
    found.parts.push(emptyPart(slot, conflictReason(heads.length)));
    return;
  }
  if (!entry || entry.kind === 'not_seen') {
    found.unseen ||= entry !== undefined;
    found.parts.push(emptyPart(slot, { code: 'loss.part_missing', params: slot.params }));
    return;
  }
  found.entryIds.push(entry.id);
  if (criterion.kind === 'loss') {
    const judged = judgeLoss(criterion, slot, entry, context);
    found.parts.push(judged.outcome);
    judged.flags.forEach((flag) => found.flags.add(flag));
    return;
  }
  found.parts.push(judgeReading(compiled, slot, entry));
  if (entry.value?.kind === 'measure' && entry.value.slipConfirmed) found.flags.add('decimal_slip_confirmed');
}

function emptyPart(slot: CompiledSlot, reason: Reason): PartOutcome {
  const base = { part: slot.part, verdict: 'incomplete', reason, entryId: null } as const;
  if (!slot.terms) return { ...base, value: null };
  const { limitDb, expectedDb, uncertaintyDb } = slot.terms;
  return { ...base, lossDb: null, limitDb, expectedDb, uncertaintyDb, referenceId: null };
}

function judgeReading(compiled: CompiledCriterion, slot: CompiledSlot, entry: Entry): PartOutcome {
  const base = { part: slot.part, entryId: entry.id };
  if (entry.kind === 'void' || !entry.value) {
    const params = { ...slot.params, why: entry.voidReason ?? 'setup_broken' };
    return { ...base, verdict: 'void', value: null, reason: { code: 'void.reading', params } };
  }
  const number = numberOf(entry.value)!;
  const { verdict, reason } = judgeBand(number, compiled.band!);
  return {
    ...base,
    verdict,
    value: decimalToNumber(number),
    reason: reason ? { code: reason.code, params: { ...reason.params, ...slot.params } } : null,
  };
}

function together(criterion: LossCriterion | ReadingsCriterion, found: Collected): Judgement {
  const { parts, entryIds, unseen } = found;
  if (found.conflicts > 0) {
    const reasons = [conflictReason(found.conflicts)];
    return {
      state: 'conflict',
      verdict: 'incomplete',
      earned: 0,
      reasons,
      parts,
      entryIds: found.conflicting,
    };
  }
  if (entryIds.length === 0) return unseen ? notSeen(entryIds) : openJudgement(undefined);
  const verdict = VERDICTS.find((v) => parts.some((p) => p.verdict === v))!;
  const state: CriterionState =
    verdict === 'void' ? 'void' : verdict === 'incomplete' ? (unseen ? 'not_seen' : 'open') : 'scored';
  return {
    state,
    verdict,
    earned: isPass(verdict) ? criterion.points : 0,
    value: criterion.kind === 'readings' ? worstValue(criterion, parts) : null,
    reasons: criterion.fibers === undefined ? reasonsOfAll(parts) : reasonsOfArray(criterion, parts),
    flags: [...found.flags],
    parts,
    entryIds,
  };
}

const reasonsOfAll = (parts: readonly PartOutcome[]): readonly Reason[] =>
  parts.flatMap((p) => (p.reason ? [p.reason] : []));

/** Parts from the worst to the best: no light first, then the highest loss, the lowest number on a tie. */
function worstFirst(
  criterion: LossCriterion | ReadingsCriterion,
  parts: readonly PartOutcome[],
): PartOutcome[] {
  const lowIsWorse = criterion.kind === 'readings' && !criterion.band.upper;
  const rank = (p: PartOutcome): number => {
    const value = partValue(p);
    if (value === null) return p.verdict === 'fail' ? Infinity : -Infinity;
    return lowIsWorse ? -value : value;
  };
  return parts
    .map((part, order) => ({ part, order, rank: rank(part) }))
    .sort((a, b) => (a.rank === b.rank ? a.order - b.order : b.rank > a.rank ? 1 : -1))
    .map(({ part }) => part);
}

function worstValue(criterion: ReadingsCriterion, parts: readonly PartOutcome[]): number | null {
  const [worst] = worstFirst(
    criterion,
    parts.filter((p) => partValue(p) !== null),
  );
  return worst ? partValue(worst) : null;
}

/** Of many fibers: the worst one's reason and how many more there are of each kind, not a list of all. */
function reasonsOfArray(
  criterion: LossCriterion | ReadingsCriterion,
  parts: readonly PartOutcome[],
): readonly Reason[] {
  const of = (...verdicts: Verdict[]): PartOutcome[] => parts.filter((p) => verdicts.includes(p.verdict));
  const failed = worstFirst(criterion, of('fail', 'marginal_fail'));
  const counted = failed.length > 0 ? failed : worstFirst(criterion, of('marginal_pass'));
  const reasons: Reason[] = counted[0]?.reason ? [counted[0].reason] : [];
  if (counted.length > 1) reasons.push({ code: 'parts.also_failed', params: { count: counted.length - 1 } });
  const voids = of('void');
  if (voids.length > 0) {
    if (voids[0]!.reason) reasons.push(voids[0]!.reason);
    if (voids.length > 1) reasons.push({ code: 'parts.void', params: { count: voids.length } });
  }
  const missing = of('incomplete').length;
  if (missing > 0) reasons.push({ code: 'parts.missing', params: { count: missing, of: parts.length } });
  return reasons;
}
