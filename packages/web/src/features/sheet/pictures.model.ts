import type {
  Criterion,
  CriterionOutcome,
  EndLayer,
  Entry,
  EntryValue,
  JointStamp,
  Unit,
} from '@clear-mark/core';
import type { SheetCriterion } from './sheet.model.ts';

/** The layer whose length to the end of the glass a criterion asks for, by what it is called in the shipped methods. */
export function layerOf({ criterion }: SheetCriterion): EndLayer | null {
  if (criterion.kind !== 'measure' || criterion.unit !== 'mm') return null;
  const name = nameOf(criterion);
  if (name === 'jacket-length') return 'jacket';
  return name === 'bare-length' || name.startsWith('cleave-length') ? 'buffer' : null;
}
const nameOf = (criterion: Criterion): string => criterion.id.split('/').at(-1)!;

/** What a picture gives a criterion: the angle of a cleave from the side, a length of an end on its card, or the level of a joint. */
export function pictureOf(item: SheetCriterion): 'cleave' | 'end' | 'splice' | null {
  const { criterion, step } = item;
  if (criterion.kind === 'measure' && criterion.unit === 'deg' && step.skill === 'cleave') return 'cleave';
  if (criterion.kind === 'grade' && step.skill === 'splice' && nameOf(criterion) === 'joint') return 'splice';
  return layerOf(item) === null ? null : 'end';
}

/** A value that was measured in a picture which is kept with the piece. */
export interface PictureValue {
  readonly id: string;
  readonly text: string;
  readonly expanded: string;
  readonly unit: Unit;
}
/** The values of a piece that name their pictures, each once, in the order of their making: known without the server. */
export function measuredIn(entries: readonly Entry[]): PictureValue[] {
  const found = new Map<string, PictureValue>();
  for (const { value } of entries) {
    const measured = pictureValue(value);
    if (measured) found.set(measured.id, measured);
  }
  return [...found.values()];
}
function pictureValue(value: EntryValue | null): PictureValue | null {
  if (value?.kind === 'measure' && value.picture) {
    const { id, expanded } = value.picture;
    return { id, expanded, text: value.text, unit: value.unit };
  }
  if (value?.kind === 'grade' && value.picture) {
    const { id, expanded, lossDb } = value.picture;
    return { id, expanded, text: lossDb, unit: 'dB' };
  }
  return null;
}

/** What a sheet has standing: outcomes by criterion, and the entries that they name. */
type Outcomes = ReadonlyMap<string, CriterionOutcome>;
type EntryById = (id: string) => Entry | null;
/** The values that stand for the criteria of a step. */
const standingIn = ({ step }: SheetCriterion, outcomes: Outcomes, entryById: EntryById): EntryValue[] =>
  step.criteria
    .flatMap(({ id }) => outcomes.get(id)?.entryIds ?? [])
    .flatMap((id) => entryById(id)?.value ?? []);

/** The loss by the picture of the joint, for the row of the splicer's estimate in the same step. */
export function lossBeside(
  item: SheetCriterion,
  outcomes: Outcomes,
  entryById: EntryById,
): JointStamp | null {
  const { criterion, step } = item;
  const isEstimate = step.skill === 'splice' && /^estimates?$/.test(nameOf(criterion));
  if (!isEstimate) return null;
  const [joint] = standingIn(item, outcomes, entryById).flatMap(
    (v) => (v.kind === 'grade' && v.picture) || [],
  );
  return joint ?? null;
}

/** What the picture of the cleave shows of its face, as a level of a scale of cleaved faces in the same step. */
export function faceBeside(item: SheetCriterion, outcomes: Outcomes, entryById: EntryById): string | null {
  const { criterion, step } = item;
  if (criterion.kind !== 'grade' || step.skill !== 'cleave') return null;
  const [face] = standingIn(item, outcomes, entryById).flatMap(
    (v) => (v.kind === 'measure' && v.picture?.face) || [],
  );
  // A broken end is chipped.
  const level = face === 'broken' ? 'chip' : (face ?? null);
  return criterion.levels.some((l) => l.id === level) ? level : null;
}
