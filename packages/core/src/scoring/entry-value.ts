import { DomainError } from '../domain-error.ts';
import {
  type Band,
  type CallCriterion,
  type Criterion,
  isWorkedOut,
  type LossCriterion,
  type MapCriterion,
  partKey,
  partsOf,
  unitOf,
} from '../sheet/index.ts';
import {
  compareDecimal,
  type Decimal,
  decimalToText,
  multiplyDecimal,
  parseDecimal,
  sameQuantity,
  secondsBetween,
  secondsFromText,
  toBaseUnit,
  UNITS,
} from '../units/index.ts';
import { compileBand, judgeBand } from './judge-band.ts';
import { CHARGE_PART, dismissPart, HAND_PART, STOP_PART, TIMER_PART } from './resolve-entries.ts';
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
    case 'map':
    case 'call':
    case 'charge':
    case 'dismiss':
    case 'hand':
    case 'timer':
    case 'stop':
      return null;
    default: {
      const never: never = value;
      return never;
    }
  }
}

/**
 * Refuses a value that the criterion cannot take, before it is stored.
 * Errors: `value.wrong_kind`, `value.worked_out`, `value.wrong_unit`, `value.not_a_number`, `value.negative`, `value.too_large`,
 * `value.bad_count`, `value.unknown_level`, `value.unknown_part`, `value.no_reference`, `map.*`, `time.*`.
 */
export function checkValue(criterion: Criterion, part: string, value: EntryValue): void {
  const at = { criterion: criterion.id };
  if (value.kind === 'charge') return requirePart(criterion, part, CHARGE_PART);
  if (value.kind === 'dismiss') return requirePart(criterion, part, dismissPart(value.symptom, value.cause));
  if (value.kind === 'hand') return requirePart(criterion, part, HAND_PART);
  if (value.kind === 'stop') return requirePart(criterion, part, STOP_PART);
  if (value.kind === 'timer' && criterion.kind === 'timed') return requirePart(criterion, part, TIMER_PART);
  if (value.kind !== criterion.kind && !(value.kind === 'measure' && criterion.kind === 'readings')) {
    throw new DomainError('value.wrong_kind', { ...at, given: value.kind, wanted: criterion.kind });
  }
  if (isWorkedOut(criterion)) throw new DomainError('value.worked_out', at);
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
      if (value.picture) refuseOver(parseDecimal(value.picture.expanded), MAX_TYPED, value.picture.expanded);
      return refuseOver(parseDecimal(value.text), MAX_TYPED, value.text);
    }
    case 'count':
      if (!Number.isInteger(value.count) || value.count < 0 || value.count > MAX_COUNT) {
        throw new DomainError('value.bad_count', { ...at, given: value.count, most: MAX_COUNT });
      }
      return;
    case 'timed':
      return refuseOver(numberOf(value)!, MAX_SECONDS, value.text ?? `${decimalToText(numberOf(value)!)} s`);
    case 'grade':
      if (!(criterion as { levels: readonly { id: string }[] }).levels.some((l) => l.id === value.level)) {
        throw new DomainError('value.unknown_level', { ...at, given: value.level });
      }
      if (value.picture) {
        for (const text of [value.picture.lossDb, value.picture.expanded])
          refuseOver(parseDecimal(text), MAX_TYPED, text);
      }
      return;
    case 'loss':
      return checkLossValue(criterion as LossCriterion, value);
    case 'map':
      return checkMapValue(criterion as MapCriterion, value.far);
    case 'call':
      if ((criterion as CallCriterion).of === undefined && value.reference === undefined) {
        throw new DomainError('value.no_reference', at);
      }
      return;
    default: {
      const never: never = value;
      return never;
    }
  }
}

/** A charge, or a dismissal, stands on any criterion in a part of its own. */
function requirePart(criterion: Criterion, part: string, wanted: string): void {
  if (part !== wanted) throw new DomainError('value.unknown_part', { criterion: criterion.id, given: part });
}

function checkPart(criterion: Criterion, part: string): void {
  if (!partsOf(criterion).some((p) => partKey(p) === part)) {
    throw new DomainError('value.unknown_part', { criterion: criterion.id, given: part });
  }
}

/** A far port lights for one near port only: a map that has it twice is not stored. */
function checkMapValue(criterion: MapCriterion, far: readonly (number | null)[]): void {
  const at = { criterion: criterion.id };
  if (far.length !== criterion.ports) {
    throw new DomainError('map.wrong_length', { ...at, given: far.length, ports: criterion.ports });
  }
  const seen = new Map<number, number>();
  far.forEach((port, i) => {
    if (port === null || port === 0) return;
    if (!Number.isInteger(port) || port < 0 || port > criterion.ports) {
      throw new DomainError('map.no_such_port', { ...at, given: port, ports: criterion.ports });
    }
    const first = seen.get(port);
    if (first !== undefined) throw new DomainError('map.port_twice', { ...at, port, first, second: i + 1 });
    seen.set(port, i + 1);
  });
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
  if (value.kind !== 'measure' || (criterion.kind !== 'measure' && criterion.kind !== 'readings'))
    return null;
  const band = compileBand(criterion.band, criterion.unit);
  const number = toBaseUnit(value.text, value.unit);
  const inside = (x: Decimal): boolean => judgeBand(x, band).verdict === 'pass';
  if (inside(number)) return null;
  if (inside(multiplyDecimal(number, TENTH))) return 'tenth';
  return inside(multiplyDecimal(number, TEN)) ? 'ten_times' : null;
}

/** A timer that ran this long and this many times its limit was forgotten, not watched. */
const FORGOTTEN_SECONDS = 3600;
const FORGOTTEN_TIMES = 10;

/**
 * Whether a running timer looks left on: over an hour, and over ten times the longest limit of its criterion.
 * The person is asked then; nothing is stored by itself. Unit: s. Example: 14 h against a limit of two minutes.
 */
export function timerLeftRunning(band: Band, seconds: number): boolean {
  const longest = Math.max(Number(band.lower?.value ?? 0), Number(band.upper?.value ?? 0));
  return seconds > FORGOTTEN_SECONDS && seconds > FORGOTTEN_TIMES * longest;
}
