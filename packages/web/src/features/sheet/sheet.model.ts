import {
  coverageOf,
  isWorkedOut,
  type Criterion,
  type CriterionOutcome,
  type Entry,
  type EntryValue,
  type MethodSheet,
  type Outcome,
  partValue,
  resolveEntries,
  slotKey,
  type Step,
} from '@clear-mark/core';

/** Where a sheet belongs: what a timer needs to be found again from anywhere. */
export interface SheetPlace {
  readonly attemptId: string;
  readonly classId: string;
  readonly trainee: string;
}

export interface SheetCriterion {
  readonly criterion: Criterion;
  readonly step: Step;
  readonly index: number;
}

/** The criterion that a picture of the end face grades. */
export const isEndFace = (c: Criterion): boolean => c.id.endsWith('/end-face');

/** The criterion that a reading of a trace gives its figure to. */
export const isOfTrace = (c: Criterion): boolean => c.id.endsWith('/events-found');

/** All criteria of a sheet in working order. */
export function listCriteria(sheet: MethodSheet): SheetCriterion[] {
  return sheet.steps
    .flatMap((step) => step.criteria.map((criterion) => ({ criterion, step })))
    .map((item, index) => ({ ...item, index }));
}

/**
 * The criterion outcomes with those kept as the same objects that did not change, so that only the rows that
 * did are drawn again.
 */
export function reuseUnchanged(
  before: ReadonlyMap<string, CriterionOutcome>,
  after: Outcome,
): ReadonlyMap<string, CriterionOutcome> {
  const next = new Map<string, CriterionOutcome>();
  for (const outcome of after.criteria) {
    const old = before.get(outcome.criterionId);
    next.set(outcome.criterionId, old && sameOutcome(old, outcome) ? old : outcome);
  }
  return next;
}

function sameOutcome(a: CriterionOutcome, b: CriterionOutcome): boolean {
  return (
    a.state === b.state &&
    a.verdict === b.verdict &&
    a.entryIds.length === b.entryIds.length &&
    a.entryIds.every((id, i) => id === b.entryIds[i]) &&
    a.reasons.length === b.reasons.length &&
    a.reasons.every((r, i) => r.code === b.reasons[i]!.code) &&
    a.parts.length === b.parts.length &&
    a.parts.every((p, i) => p.verdict === b.parts[i]!.verdict && partValue(p) === partValue(b.parts[i]!))
  );
}

/** The value that stands for a criterion and part, to show it in its field. */
export function standingEntry(entries: readonly Entry[], criterionId: string, part: string): Entry | null {
  const slot = resolveEntries(
    entries.filter((e) => (e.criterionId === criterionId && e.part === part) || e.kind === 'retract'),
  ).get(slotKey(criterionId, part));
  return slot?.heads[0] ?? slot?.proposals[0] ?? null;
}

/** This author's last entry that still stands: what undo takes back. Notes are left alone. */
export function lastToUndo(entries: readonly Entry[], authorId: string): Entry | null {
  const retracted = new Set(entries.flatMap((e) => (e.targetId === null ? [] : [e.targetId])));
  for (let i = entries.length - 1; i >= 0; i--) {
    const entry = entries[i]!;
    if (entry.authorId !== authorId || entry.kind === 'note' || entry.kind === 'retract') continue;
    if (!retracted.has(entry.id)) return entry;
  }
  return null;
}

/**
 * The first criterion from here on (then from the start) that has no result and needs one; null when all have. What is only
 * scored when it is seen, and what the trainee enters, is passed over.
 */
export function nextOpen(
  criteria: readonly SheetCriterion[],
  outcomes: ReadonlyMap<string, CriterionOutcome>,
  fromIndex: number,
): SheetCriterion | null {
  const isOpen = ({ criterion }: SheetCriterion): boolean => {
    const state = outcomes.get(criterion.id)?.state;
    return state === 'conflict' || (criterion.required && (state === 'open' || state === undefined));
  };
  return criteria.slice(fromIndex).find(isOpen) ?? criteria.slice(0, fromIndex).find(isOpen) ?? null;
}

const isUnscored = (
  outcomes: ReadonlyMap<string, CriterionOutcome>,
  { criterion }: SheetCriterion,
): boolean => outcomes.get(criterion.id)?.state === 'open';

/** The checks of a step that nobody has scored: one tap passes them. A trainee's own are left to the trainee. */
export const openChecks = (
  items: readonly SheetCriterion[],
  outcomes: ReadonlyMap<string, CriterionOutcome>,
): SheetCriterion[] =>
  items.filter((c) => c.criterion.kind === 'check' && !isTrainees(c.criterion) && isUnscored(outcomes, c));

/** What is scored only when it is seen and was not yet. */
export const openSampled = (
  items: readonly SheetCriterion[],
  outcomes: ReadonlyMap<string, CriterionOutcome>,
): SheetCriterion[] =>
  items.filter(
    (c) => coverageOf(c.criterion) === 'sampled' && !isWorkedOut(c.criterion) && isUnscored(outcomes, c),
  );

const isTrainees = (c: Criterion): boolean => coverageOf(c) === 'trainee';

/** A standing value as text for its field. */
export function valueText(value: EntryValue | null): string {
  if (value === null) return '';
  switch (value.kind) {
    case 'measure':
      return value.text;
    case 'loss':
      return value.noLight ? '' : (value.text ?? '');
    case 'count':
      return String(value.count);
    case 'timed':
      return value.text ?? '';
    case 'check':
    case 'grade':
    case 'map':
    case 'call':
    case 'charge':
    case 'dismiss':
    case 'hand':
    case 'timer':
    case 'stop':
      return '';
    default: {
      const never: never = value;
      return never;
    }
  }
}

/** The suggestions that were put away on this piece, as the parts that they stand in. */
export function standingDismissals(entries: readonly Entry[]): ReadonlySet<string> {
  const about = entries.filter((e) => e.kind === 'dismiss' || e.kind === 'retract');
  if (about.every((e) => e.kind === 'retract')) return NOTHING;
  const parts = [...resolveEntries(about).values()].flatMap(({ heads }) =>
    heads.map((e) => `${e.criterionId} ${e.part}`),
  );
  return new Set(parts);
}
const NOTHING: ReadonlySet<string> = new Set();

/** The trainee's own results for a criterion that nobody has witnessed. */
export function proposalsOf(entries: readonly Entry[], criterionId: string): readonly Entry[] {
  const about = entries.filter((e) => e.criterionId === criterionId || e.kind === 'retract');
  return [...resolveEntries(about).values()].flatMap((slot) =>
    slot.heads.length > 0
      ? []
      : slot.proposals.filter(
          (e) => e.criterionId === criterionId && e.kind !== 'hand' && e.kind !== 'timer',
        ),
  );
}

/** The trainee's latest own value of a part that was not taken back, whether or not an instructor's stands over it. */
export function ownReading(entries: readonly Entry[], criterionId: string, part: string): Entry | null {
  const takenBack = new Set(entries.flatMap((e) => (e.kind === 'retract' ? [e.targetId] : [])));
  const own = entries.filter(
    (e) =>
      e.kind === 'value' &&
      e.capacity === 'trainee' &&
      e.criterionId === criterionId &&
      e.part === part &&
      !takenBack.has(e.id),
  );
  return own[own.length - 1] ?? null;
}

/** The criteria of each step, by the step's id. */
export function itemsByStep(
  criteria: readonly SheetCriterion[],
): ReadonlyMap<string, readonly SheetCriterion[]> {
  const map = new Map<string, SheetCriterion[]>();
  for (const item of criteria) {
    const list = map.get(item.step.id);
    if (list) list.push(item);
    else map.set(item.step.id, [item]);
  }
  return map;
}
