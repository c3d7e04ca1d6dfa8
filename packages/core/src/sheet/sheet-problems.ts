import { DomainError } from '../domain-error.ts';
import type { DomainErrorCode } from '../error-codes.ts';
import { compareDecimal, toBaseUnit } from '../units/index.ts';
import { changeCriterion } from './apply-practice.ts';
import { MAX_FIBERS, partsOf } from './parts.ts';
import type { Across, Band, Criterion, MethodSheet, PracticeOption, Step } from './types.ts';
import { unitOf } from './unit-of.ts';

/** What is wrong with a sheet, and where: the step and the criterion that it is about, where it is about one. */
export interface SheetProblem {
  readonly code: DomainErrorCode;
  readonly params: Readonly<Record<string, string | number>>;
  readonly step: string | null;
  readonly criterion: string | null;
}

/** Where a problem belongs, and the list that it goes to. */
interface Place {
  readonly step: string | null;
  readonly criterion: string | null;
  readonly list: SheetProblem[];
}

function add(
  { list, step, criterion }: Place,
  code: DomainErrorCode,
  params: SheetProblem['params'] = {},
): void {
  list.push({ code, params: criterion === null ? params : { criterion, ...params }, step, criterion });
}

/**
 * Everything that keeps scoring from trusting a sheet, in the order of the sheet: repeated ids, no points, a band whose ends
 * are crossed or that has no end, a scale without a passing and a failing level, loss without wavelengths, a call on a
 * criterion that is not there, a length less one that it cannot be compared with, a range of what is no row, a practice whose
 * choices do not fit. Empty for a sound sheet. Example: a band from 5 to 4 mm gives `sheet.crossed_band` at its criterion.
 */
export function sheetProblems(sheet: MethodSheet): readonly SheetProblem[] {
  const list: SheetProblem[] = [];
  const criteria = new Map<string, Placed>();
  const steps = new Set<string>();
  for (const step of sheet.steps) {
    if (steps.has(step.id)) {
      add({ list, step: step.id, criterion: null }, 'sheet.repeated_step', { step: step.id });
    }
    steps.add(step.id);
    for (const criterion of step.criteria) {
      const place = { list, step: step.id, criterion: criterion.id };
      if (criteria.has(criterion.id)) add(place, 'sheet.repeated_criterion');
      criteria.set(criterion.id, { criterion, place });
      checkCriterion(criterion, place);
    }
  }
  const whole = { list, step: null, criterion: null };
  if (criteria.size === 0) add(whole, 'sheet.empty', { method: sheet.id });
  checkCalls(criteria, new Set());
  for (const { criterion, place } of criteria.values()) checkTargets(criterion, criteria, place);
  for (const practice of sheet.schools ?? []) checkPractice(practice, criteria, steps, whole);
  return list;
}

interface Placed {
  readonly criterion: Criterion;
  readonly place: Place;
}
type Criteria = ReadonlyMap<string, Placed>;

/** A call needs its reference on the same sheet, and not another call. `out` are criteria that were left out. */
function checkCalls(criteria: Criteria, out: ReadonlySet<string>): void {
  for (const { criterion: c, place } of criteria.values()) {
    if (c.kind !== 'call' || c.of === undefined || out.has(c.id)) continue;
    const target = criteria.get(c.of)?.criterion;
    if (!target || target.kind === 'call' || out.has(target.id)) add(place, 'sheet.call_target');
  }
}

/**
 * A length is taken off one of the same unit, which stands by itself; a range is of the loss of several fibers, in dB; the
 * check of the launch's conditioning is a check.
 */
function checkTargets(c: Criterion, criteria: Criteria, place: Place): void {
  const named = (id: string): Criterion | undefined => criteria.get(id)?.criterion;
  if (c.kind === 'measure' && c.less !== undefined) {
    const other = named(c.less);
    if (other?.kind !== 'measure' || other.less !== undefined || other.unit !== c.unit) {
      add(place, 'sheet.less_target');
    }
  }
  if (c.kind === 'measure' && c.rangeOf !== undefined) {
    const row = named(c.rangeOf);
    if (row?.kind !== 'loss' || (row.fibers ?? 1) < 2 || c.unit !== 'dB') add(place, 'sheet.range_target');
  }
  if (c.kind === 'loss' && c.conditionedBy !== undefined && named(c.conditionedBy)?.kind !== 'check') {
    add(place, 'sheet.conditioned_by');
  }
}

/** The default is an option; every change names a criterion of the sheet and fits its kind. */
function checkPractice(
  practice: PracticeOption,
  criteria: Criteria,
  steps: ReadonlySet<string>,
  whole: Place,
): void {
  const sound =
    practice.options.some((o) => o.id === practice.default) &&
    practice.options.every(({ changes }) => changes.every((change) => fits(change, criteria, steps, whole)));
  if (!sound) add(whole, 'sheet.practice', { practice: practice.id });
  for (const { changes } of practice.options) {
    const out = new Set(changes.flatMap((c) => (c.change === 'leave_out' ? [c.criterion] : [])));
    if (out.size > 0) checkCalls(criteria, out);
  }
}

type Change = PracticeOption['options'][number]['changes'][number];

function fits(change: Change, criteria: Criteria, steps: ReadonlySet<string>, whole: Place): boolean {
  if (change.change === 'how' || change.change === 'fiber_class') return true;
  if (change.change === 'add_step') return fitsIn(change.after, change.step, criteria, steps, whole);
  const placed = criteria.get(change.criterion);
  if (!placed) return false;
  if (change.change === 'leave_out') return true;
  try {
    const made = changeCriterion(placed.criterion, change);
    // Other figures are looked at like those of the criterion itself.
    if (change.change !== 'require' && change.change !== 'label') checkCriterion(made, placed.place);
  } catch (error) {
    if (!(error instanceof DomainError)) throw error;
    add(placed.place, error.code, error.params);
  }
  return true;
}

function fitsIn(
  after: string,
  step: Step,
  criteria: Criteria,
  steps: ReadonlySet<string>,
  { list }: Place,
): boolean {
  if (!steps.has(after) || steps.has(step.id) || step.criteria.some((c) => criteria.has(c.id))) return false;
  for (const c of step.criteria) checkCriterion(c, { list, step: after, criterion: c.id });
  return true;
}

function checkCriterion(criterion: Criterion, place: Place): void {
  if (!Number.isInteger(criterion.points) || criterion.points < 0) {
    add(place, 'sheet.points', { points: criterion.points });
  }
  switch (criterion.kind) {
    case 'measure':
    case 'count':
    case 'timed':
      return checkBand(criterion.band, criterion, place);
    case 'readings':
      checkAcross(criterion, place);
      return checkBand(criterion.band, criterion, place);
    case 'grade': {
      const verdicts = new Set(criterion.levels.map((level) => level.verdict));
      if (!verdicts.has('pass') || !verdicts.has('fail')) add(place, 'sheet.scale');
      if (criterion.levels.some((level) => level.points < 0 || level.points > criterion.points)) {
        add(place, 'sheet.points', { points: criterion.points });
      }
      return;
    }
    case 'loss':
      if (criterion.wavelengthsNm.length === 0) return add(place, 'sheet.no_wavelength');
      return checkAcross(criterion, place);
    case 'map':
      if (!isCount(criterion.ports, MAX_FIBERS) || criterion.ports % 2 !== 0) {
        add(place, 'sheet.ports', { ports: criterion.ports });
      }
      return;
    case 'check':
    case 'call':
      return;
    default: {
      const never: never = criterion;
      return never;
    }
  }
}

const isCount = (n: number, most: number): boolean => Number.isInteger(n) && n > 0 && n <= most;

function checkAcross(criterion: Criterion & Across, place: Place): void {
  if (criterion.fibers !== undefined && !isCount(criterion.fibers, MAX_FIBERS)) {
    return add(place, 'sheet.fibers', { fibers: criterion.fibers });
  }
  if (criterion.darkFibers !== undefined && partsOf(criterion).length === 0) {
    add(place, 'sheet.fibers', { fibers: criterion.fibers ?? 0 });
  }
  if (criterion.directions?.length === 0 || criterion.wavelengthsNm?.length === 0) {
    add(place, 'sheet.no_wavelength');
  }
}

function checkBand(band: Band, criterion: Criterion, place: Place): void {
  if (!band.lower && !band.upper) return add(place, 'sheet.no_limit');
  const unit = unitOf(criterion);
  try {
    const lower = band.lower && toBaseUnit(band.lower.value, unit);
    const upper = band.upper && toBaseUnit(band.upper.value, unit);
    if (band.target !== undefined) toBaseUnit(band.target, unit);
    if (lower && upper && compareDecimal(lower, upper) > 0) add(place, 'sheet.crossed_band');
  } catch (error) {
    if (!(error instanceof DomainError)) throw error;
    add(place, 'sheet.bad_number');
  }
}
