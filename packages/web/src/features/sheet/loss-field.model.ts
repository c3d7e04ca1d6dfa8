import {
  concludeLoss,
  type Conclusion,
  type CriterionOutcome,
  type Direction,
  type Entry,
  isLossPart,
  lossDbOf,
  type LossCriterion,
  type LossPartOutcome,
  type LossReference,
  type LossTerms,
  parsePart,
  partKey,
  partsOf,
  readingOf,
  readingsAgree,
} from '@clear-mark/core';
import type { ClassReference } from '@clear-mark/contract';
import { termsOf } from '../../shared/limit-words.ts';

/** Units that a loss is read in. */
export const LOSS_UNITS = ['dBm', 'dB', 'mW', 'uW', 'nW'] as const;
export type LossUnit = (typeof LOSS_UNITS)[number];

/** Loss in dB by the criterion's own floor of the meter, as it is scored; null also where text or reference is no number. */
export function lossOf(
  value: Parameters<typeof lossDbOf>[0],
  reference: LossReference,
  criterion: LossCriterion,
): number | null {
  try {
    return lossDbOf(value, reference, criterion.rules.meterFloorDbm?.dbm);
  } catch {
    return null;
  }
}

/** What the readings say together; empty while there is none. */
export function conclusionsOf(
  criterion: LossCriterion,
  outcome: CriterionOutcome,
  conditioned: boolean | null,
): readonly Conclusion[] {
  const judged = outcome.parts.filter(isLossPart).filter((p) => p.verdict !== 'incomplete');
  return concludeLoss({
    link: criterion.link,
    terms: new Map(
      judged.map((p) => [
        parsePart(p.part).wavelengthNm!,
        termsOf(criterion, parsePart(p.part).wavelengthNm!),
      ]),
    ),
    bendStepDb: criterion.rules.bendStepDb.db,
    conditioned,
    readings: judged.map(readingOf),
  });
}

/** The trainee's own reading beside the instructor's of the same place; null where there is nothing to compare. */
export function besideTrainee(
  own: Entry,
  instructor: LossPartOutcome,
  reference: LossReference | null,
  criterion: LossCriterion,
): string | null {
  if (own.value?.kind !== 'loss' || instructor.lossDb === null || instructor.entryId === own.id) return null;
  const lossDb = reference ? lossOf(own.value, reference, criterion) : null;
  if (lossDb === null) return 'Trainee read no light.';
  const u = instructor.uncertaintyDb;
  const { agree, differenceDb, mostDb } = readingsAgree(lossDb, instructor.lossDb, u, u);
  const apart = `${Math.abs(differenceDb).toFixed(2)} dB apart, at most ${mostDb.toFixed(2)}`;
  return `Trainee read ${lossDb.toFixed(2)} dB: ${agree ? 'agrees' : 'does not agree, the technique of one is wrong'} (${apart}).`;
}

/**
 * The newer of two checks of one cord, by the time they were kept: the piece and the class are told apart from each
 * other and either copy may be the older one; undefined where neither knows of a check.
 */
export const newestCheck = <C extends { readonly at: string }>(
  a: C | undefined,
  b: C | undefined,
): C | undefined => (a && b ? (Date.parse(b.at) > Date.parse(a.at) ? b : a) : (a ?? b));

/** A place of a loss test as it is shown: what stands there, by which reference, and how it was judged. */
export interface ShownLossLine {
  readonly nm: number;
  readonly part: string;
  readonly direction: Direction | null;
  readonly entry: Entry | null;
  readonly terms: LossTerms;
  readonly reference: ClassReference | null;
  readonly judged: LossPartOutcome | undefined;
}

/** The places of a loss test in their order; what was read keeps the reference that it was read by. */
export function lossLines(
  criterion: LossCriterion,
  outcome: CriterionOutcome,
  entryById: (id: string) => Entry | null,
  references: readonly ClassReference[],
  referenceFor: (wavelengthNm: number) => ClassReference | null,
): ShownLossLine[] {
  return partsOf(criterion).map((place) => {
    const part = partKey(place);
    const nm = place.wavelengthNm!;
    const judged = outcome.parts.filter(isLossPart).find((p) => p.part === part);
    const entry = judged?.entryId ? entryById(judged.entryId) : null;
    const readBy = entry?.value?.kind === 'loss' ? entry.value.referenceId : null;
    const reference = references.find((r) => r.id === readBy) ?? referenceFor(nm);
    return { nm, part, direction: place.direction, entry, terms: termsOf(criterion, nm), reference, judged };
  });
}

/** How long ago an instant was, such as `12 min old`. */
export function ageWords(at: string, nowMs: number): string {
  const minutes = Math.round((nowMs - Date.parse(at)) / 60_000);
  return minutes < 60 ? `${minutes} min old` : `${Math.floor(minutes / 60)} h ${minutes % 60} min old`;
}
