import { DomainError } from '../domain-error.ts';
import { compareDecimal } from '../units/index.ts';
import { toBaseUnit } from '../units/index.ts';
import type { Band, Criterion, MethodSheet } from './types.ts';
import { unitOf } from './unit-of.ts';

/**
 * Refuses a sheet that scoring could not be trusted with: repeated ids, no points, a band whose ends are
 * crossed or that has no end, a scale without a passing and a failing level, loss without wavelengths.
 * Returns the sheet. Errors: `sheet.*` with the criterion's id.
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
  return sheet;
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
      return;
    case 'check':
      return;
    default: {
      const never: never = criterion;
      return never;
    }
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
