import { DomainError } from '../domain-error.ts';
import { compareDecimal } from '../units/index.ts';
import { partsOf } from './parts.ts';
import { toBaseUnit } from '../units/index.ts';
import { changeCriterion } from './apply-practice.ts';
import { MAX_FIBERS } from './parts.ts';
import type { Across, Band, Criterion, MethodSheet, PracticeOption } from './types.ts';
import { unitOf } from './unit-of.ts';

/**
 * Refuses a sheet that scoring could not be trusted with: repeated ids, no points, a band whose ends are
 * crossed or that has no end, a scale without a passing and a failing level, loss without wavelengths, a call on
 * a criterion that is not there, a length less one that it cannot be compared with, a range of what is no row, a practice whose choices do not fit. Returns the sheet. Errors: `sheet.*` with the criterion's id.
 */
export function checkSheet(sheet: MethodSheet): MethodSheet {
  const seen = new Set<string>();
  const steps = new Set<string>();
  for (const step of sheet.steps) {
    if (steps.has(step.id)) throw new DomainError('sheet.repeated_step', { step: step.id });
    steps.add(step.id);
    for (const criterion of step.criteria) {
      if (seen.has(criterion.id)) {
        throw new DomainError('sheet.repeated_criterion', { criterion: criterion.id });
      }
      seen.add(criterion.id);
      checkCriterion(criterion);
    }
  }
  if (seen.size === 0) throw new DomainError('sheet.empty', { method: sheet.id });
  const criteria = new Map(sheet.steps.flatMap((s) => s.criteria.map((c) => [c.id, c] as const)));
  checkCalls(criteria, new Set());
  checkLess(criteria);
  checkRanges(criteria);
  for (const c of criteria.values()) {
    if (c.kind !== 'loss' || c.conditionedBy === undefined) continue;
    if (criteria.get(c.conditionedBy)?.kind !== 'check') {
      throw new DomainError('sheet.conditioned_by', { criterion: c.id });
    }
  }
  for (const practice of sheet.schools ?? []) checkPractice(practice, criteria, steps);
  return sheet;
}

type Criteria = ReadonlyMap<string, Criterion>;

/** A call needs its reference on the same sheet, and not another call. `out` are criteria that were left out. */
function checkCalls(criteria: Criteria, out: ReadonlySet<string>): void {
  for (const c of criteria.values()) {
    if (c.kind !== 'call' || c.of === undefined || out.has(c.id)) continue;
    const target = criteria.get(c.of);
    if (!target || target.kind === 'call' || out.has(target.id)) {
      throw new DomainError('sheet.call_target', { criterion: c.id });
    }
  }
}

/** A length is taken off one of the same unit, which stands by itself. */
function checkLess(criteria: Criteria): void {
  for (const c of criteria.values()) {
    if (c.kind !== 'measure' || c.less === undefined) continue;
    const other = criteria.get(c.less);
    if (other?.kind !== 'measure' || other.less !== undefined || other.unit !== c.unit) {
      throw new DomainError('sheet.less_target', { criterion: c.id });
    }
  }
}

/** A range is of the loss of several fibers, in dB. */
function checkRanges(criteria: Criteria): void {
  for (const c of criteria.values()) {
    if (c.kind !== 'measure' || c.rangeOf === undefined) continue;
    const row = criteria.get(c.rangeOf);
    if (row?.kind !== 'loss' || (row.fibers ?? 1) < 2 || c.unit !== 'dB') {
      throw new DomainError('sheet.range_target', { criterion: c.id });
    }
  }
}

/** The default is an option; every change names a criterion of the sheet and fits its kind. */
function checkPractice(practice: PracticeOption, criteria: Criteria, steps: ReadonlySet<string>): void {
  const wrong = (): never => {
    throw new DomainError('sheet.practice', { practice: practice.id });
  };
  if (!practice.options.some((o) => o.id === practice.default)) wrong();
  for (const { changes } of practice.options) {
    const out = new Set<string>();
    for (const change of changes) {
      if (change.change === 'how' || change.change === 'fiber_class') continue;
      if (change.change === 'add_step') {
        if (!steps.has(change.after) || steps.has(change.step.id)) wrong();
        if (change.step.criteria.some((c) => criteria.has(c.id))) wrong();
        change.step.criteria.forEach(checkCriterion);
        continue;
      }
      const criterion = criteria.get(change.criterion) ?? wrong();
      if (change.change === 'leave_out') out.add(criterion.id);
      else changeCriterion(criterion, change);
    }
    if (out.size > 0) checkCalls(criteria, out);
  }
}

function checkCriterion(criterion: Criterion): void {
  const at = { criterion: criterion.id };
  if (!Number.isInteger(criterion.points) || criterion.points < 0) {
    throw new DomainError('sheet.points', { ...at, points: criterion.points });
  }
  switch (criterion.kind) {
    case 'measure':
    case 'count':
    case 'timed':
      return checkBand(criterion.band, criterion);
    case 'readings':
      checkAcross(criterion);
      return checkBand(criterion.band, criterion);
    case 'grade': {
      const verdicts = new Set(criterion.levels.map((level) => level.verdict));
      if (!verdicts.has('pass') || !verdicts.has('fail')) throw new DomainError('sheet.scale', at);
      if (criterion.levels.some((level) => level.points < 0 || level.points > criterion.points)) {
        throw new DomainError('sheet.points', { ...at, points: criterion.points });
      }
      return;
    }
    case 'loss':
      if (criterion.wavelengthsNm.length === 0) throw new DomainError('sheet.no_wavelength', at);
      return checkAcross(criterion);
    case 'map':
      if (!isCount(criterion.ports, MAX_FIBERS) || criterion.ports % 2 !== 0) {
        throw new DomainError('sheet.ports', { ...at, ports: criterion.ports });
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

function checkAcross(criterion: Criterion & Across): void {
  const at = { criterion: criterion.id };
  if (criterion.fibers !== undefined && !isCount(criterion.fibers, MAX_FIBERS)) {
    throw new DomainError('sheet.fibers', { ...at, fibers: criterion.fibers });
  }
  if (criterion.darkFibers !== undefined && partsOf(criterion).length === 0) {
    throw new DomainError('sheet.fibers', { ...at, fibers: criterion.fibers ?? 0 });
  }
  if (criterion.directions?.length === 0 || criterion.wavelengthsNm?.length === 0) {
    throw new DomainError('sheet.no_wavelength', at);
  }
}

function checkBand(band: Band, criterion: Criterion): void {
  const at = { criterion: criterion.id };
  if (!band.lower && !band.upper) throw new DomainError('sheet.no_limit', at);
  const unit = unitOf(criterion);
  const lower = band.lower && toBaseUnit(band.lower.value, unit);
  const upper = band.upper && toBaseUnit(band.upper.value, unit);
  if (lower && upper && compareDecimal(lower, upper) > 0) throw new DomainError('sheet.crossed_band', at);
}
