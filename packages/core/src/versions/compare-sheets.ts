import type { Criterion, MethodSheet, Step } from '../sheet/index.ts';
import { isSame } from './same.ts';

/** One thing in which a version differs from another. */
export interface SheetDifference {
  readonly change: 'added' | 'removed' | 'moved' | 'changed';
  /** The step that it is on, in the version that has it; null for what the sheet as a whole says. */
  readonly step: string | null;
  readonly criterion: string | null;
  /** What changed of it: a field of the sheet, the step or the criterion. Null where all of it came, went or moved. */
  readonly field: string | null;
  readonly before: unknown;
  readonly after: unknown;
}

/** What tells one version from the other by itself and is no difference. */
const BESIDE = new Set(['id', 'version', 'steps', 'chosen', 'onLink']);

/**
 * In what a version differs from an earlier one: what the sheet says as a whole, steps and criteria that came, went, moved or
 * changed, each field by itself. Steps and criteria are the same by their ids; where a criterion went to another step it
 * moved. Empty for the same content. Example: an upper limit of 14 for 13 mm is one `changed` with the field `band`.
 */
export function compareSheets(before: MethodSheet, after: MethodSheet): readonly SheetDifference[] {
  const list = fieldsThatDiffer(before, after, BESIDE).map((f) => changed(null, null, f));
  const oldSteps = new Map(before.steps.map((s) => [s.id, s]));
  const newSteps = new Map(after.steps.map((s) => [s.id, s]));
  for (const step of before.steps) {
    if (!newSteps.has(step.id)) list.push(whole('removed', step.id, null, step, undefined));
  }
  for (const step of after.steps) {
    const old = oldSteps.get(step.id);
    if (!old) list.push(whole('added', step.id, null, undefined, step));
    else for (const f of fieldsThatDiffer(old, step, STEP_BESIDE)) list.push(changed(step.id, null, f));
  }
  for (const id of movedAmong([...oldSteps.keys()], [...newSteps.keys()])) {
    list.push(whole('moved', id, null, undefined, undefined));
  }
  return [...list, ...criteriaThatDiffer(before, after)];
}

const STEP_BESIDE = new Set(['id', 'criteria']);
const CRITERION_BESIDE = new Set(['id']);

interface Placed {
  readonly step: string;
  readonly criterion: Criterion;
}
const placed = (steps: readonly Step[]): Map<string, Placed> =>
  new Map(
    steps.flatMap((step) => step.criteria.map((criterion) => [criterion.id, { step: step.id, criterion }])),
  );

function criteriaThatDiffer(before: MethodSheet, after: MethodSheet): SheetDifference[] {
  const list: SheetDifference[] = [];
  const old = placed(before.steps);
  const now = placed(after.steps);
  for (const [id, { step, criterion }] of old) {
    if (!now.has(id)) list.push(whole('removed', step, id, criterion, undefined));
  }
  for (const [id, { step, criterion }] of now) {
    const was = old.get(id);
    if (!was) {
      list.push(whole('added', step, id, undefined, criterion));
      continue;
    }
    if (was.step !== step) list.push(whole('moved', step, id, was.step, step));
    for (const f of fieldsThatDiffer(was.criterion, criterion, CRITERION_BESIDE)) {
      list.push(changed(step, id, f));
    }
  }
  for (const step of after.steps) {
    const was = before.steps.find((s) => s.id === step.id);
    if (!was) continue;
    const ids = (s: Step): string[] => s.criteria.map((c) => c.id);
    for (const id of movedAmong(ids(was), ids(step)))
      list.push(whole('moved', step.id, id, step.id, step.id));
  }
  return list;
}

interface Field {
  readonly field: string;
  readonly before: unknown;
  readonly after: unknown;
}

function fieldsThatDiffer(a: object, b: object, beside: ReadonlySet<string>): Field[] {
  const one = a as Record<string, unknown>;
  const other = b as Record<string, unknown>;
  return [...new Set([...Object.keys(one), ...Object.keys(other)])]
    .filter((key) => !beside.has(key) && !isSame(one[key], other[key]))
    .map((field) => ({ field, before: one[field], after: other[field] }));
}

const changed = (step: string | null, criterion: string | null, f: Field): SheetDifference => ({
  change: 'changed',
  step,
  criterion,
  ...f,
});
const whole = (
  change: 'added' | 'removed' | 'moved',
  step: string,
  criterion: string | null,
  before: unknown,
  after: unknown,
): SheetDifference => ({ change, step, criterion, field: null, before, after });

/** Of what both have: the fewest that would have to be put elsewhere to turn the one order into the other. */
function movedAmong(before: readonly string[], after: readonly string[]): string[] {
  const place = new Map(before.map((id, i) => [id, i]));
  const common = after.filter((id) => place.has(id));
  const kept = longestRising(common.map((id) => place.get(id)!));
  return common.filter((_, i) => !kept.has(i));
}

/** Positions of a longest rising run of numbers, not side by side. */
function longestRising(values: readonly number[]): ReadonlySet<number> {
  const length = values.map(() => 1);
  const from = values.map(() => -1);
  for (let i = 0; i < values.length; i++) {
    for (let j = 0; j < i; j++) {
      if (values[j]! >= values[i]! || length[j]! + 1 <= length[i]!) continue;
      length[i] = length[j]! + 1;
      from[i] = j;
    }
  }
  const kept = new Set<number>();
  let at = length.indexOf(Math.max(0, ...length));
  while (at >= 0) {
    kept.add(at);
    at = from[at]!;
  }
  return kept;
}
