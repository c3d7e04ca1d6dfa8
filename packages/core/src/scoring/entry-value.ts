import { DomainError } from '../domain-error.ts';
import type { Criterion, LossCriterion } from '../sheet/index.ts';
import { unitOf } from '../sheet/index.ts';
import {
  compareDecimal,
  type Decimal,
  multiplyDecimal,
  parseDecimal,
  sameQuantity,
  secondsBetween,
  secondsFromText,
  toBaseUnit,
  UNITS,
} from '../units/index.ts';
import { compileBand, judgeBand } from './judge-band.ts';
import { CHARGE_PART } from './resolve-entries.ts';
import type { EntryValue } from './types.ts';

/** The greatest count that one criterion can take. */
export const MAX_COUNT = 9999;
/** The greatest typed number, in the unit it was typed in. */
const MAX_TYPED = parseDecimal('1000000');
/** The longest time that a timer is believed; 24 hours, in seconds. */
const MAX_SECONDS = parseDecimal('86400');

/**
 * The number (base unit) of a measurement, count or time.
 * Errors: `value.*`, `time.*`. Example: 1:30 typed is 90 s.
 */
export function numberOf(value: EntryValue): Decimal | null {
  switch (value.kind) {
    case 'measure':
      return toBaseUnit(value.text, value.unit);
    case 'count':
      return { digits: BigInt(value.count), scale: 0 };
    case 'timed':
      return parseDecimal(
        value.startedAt !== undefined && value.stoppedAt !== undefined
          ? secondsBetween(value.startedAt, value.stoppedAt)
          : secondsFromText(value.text ?? ''),
      );
    case 'check':
    case 'grade':
    case 'loss':
    case 'charge':
      return null;
    default: {
      const never: never = value;
      return never;
    }
  }
}

/**
 * Refuses a value that the criterion cannot take, before it is stored.
 * Errors: `value.wrong_kind`, `value.wrong_unit`, `value.not_a_number`, `value.negative`, `value.too_large`,
 * `value.bad_count`, `value.unknown_level`, `value.unknown_part`, `time.*`.
 */
export function checkValue(criterion: Criterion, part: string, value: EntryValue): void {
  const at = { criterion: criterion.id };
  if (value.kind === 'charge') return checkCharge(criterion, part);
  if (criterion.kind !== value.kind) {
    throw new DomainError('value.wrong_kind', { ...at, given: value.kind, wanted: criterion.kind });
  }
  checkPart(criterion, part);
  switch (value.kind) {
    case 'check':
      return;
    case 'measure': {
      const wanted = unitOf(criterion);
      if (!sameQuantity(value.unit, wanted)) {
        throw new DomainError('value.wrong_unit', { ...at, given: value.unit, wanted });
      }
      toBaseUnit(value.text, value.unit);
      return refuseOver(parseDecimal(value.text), MAX_TYPED, value.text);
    }
    case 'count':
      if (!Number.isInteger(value.count) || value.count < 0 || value.count > MAX_COUNT) {
        throw new DomainError('value.bad_count', { ...at, given: value.count, most: MAX_COUNT });
      }
      return;
    case 'timed':
      return refuseOver(numberOf(value)!, MAX_SECONDS, value.text ?? '');
    case 'grade':
      if (!(criterion as { levels: readonly { id: string }[] }).levels.some((l) => l.id === value.level)) {
        throw new DomainError('value.unknown_level', { ...at, given: value.level });
      }
      return;
    case 'loss':
      return checkLossValue(criterion as LossCriterion, value);
    default: {
      const never: never = value;
      return never;
    }
  }
}

/** A charge stands on any criterion, in a part of its own. */
function checkCharge(criterion: Criterion, part: string): void {
  if (part !== CHARGE_PART) {
    throw new DomainError('value.unknown_part', { criterion: criterion.id, given: part });
  }
}

function checkPart(criterion: Criterion, part: string): void {
  const known = criterion.kind === 'loss' ? criterion.wavelengthsNm.map(String) : [''];
  if (!known.includes(part)) {
    throw new DomainError('value.unknown_part', { criterion: criterion.id, given: part });
  }
}

function checkLossValue(criterion: LossCriterion, value: EntryValue & { kind: 'loss' }): void {
  const quantity = UNITS[value.unit].quantity;
  if (quantity !== 'loss' && quantity !== 'level' && quantity !== 'power') {
    throw new DomainError('value.wrong_unit', { criterion: criterion.id, given: value.unit, wanted: 'dB' });
  }
  if (value.noLight) return;
  toBaseUnit(value.text ?? '', value.unit);
  refuseOver(parseDecimal(value.text ?? ''), MAX_TYPED, value.text ?? '');
}

function refuseOver(value: Decimal, most: Decimal, text: string): void {
  if (compareDecimal(value, most) > 0) throw new DomainError('value.too_large', { text });
}

const TEN = parseDecimal('10');
const TENTH = parseDecimal('0.1');

/**
 * Whether a typed measurement looks like a slip of the decimal sign: it is outside the limits, and ten times
 * or a tenth of it is inside. Gives the text that would be inside, or null.
 * Example: 105 mm against 10 to 11 mm suggests 10.5.
 */
export function decimalSlip(criterion: Criterion, value: EntryValue): 'tenth' | 'ten_times' | null {
  if (value.kind !== 'measure' || criterion.kind !== 'measure') return null;
  const band = compileBand(criterion.band, criterion.unit);
  const number = toBaseUnit(value.text, value.unit);
  const inside = (x: Decimal): boolean => judgeBand(x, band).verdict === 'pass';
  if (inside(number)) return null;
  if (inside(multiplyDecimal(number, TENTH))) return 'tenth';
  return inside(multiplyDecimal(number, TEN)) ? 'ten_times' : null;
}
