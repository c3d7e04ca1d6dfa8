import { DomainError } from '../domain-error.ts';
import { type Decimal, multiplyDecimal, parseDecimal } from './decimal.ts';

interface UnitRow {
  readonly quantity: 'length' | 'time' | 'angle' | 'level' | 'loss' | 'power' | 'count';
  /** Exact factor to the quantity's base unit, or null where the conversion is logarithmic. */
  readonly toBase: string | null;
  readonly signed: boolean;
}

/**
 * The units that a value can be typed in. Base units: mm, s, deg, dB, dBm, mW, 1.
 * 1 in = 25.4 mm and 1 ft = 304.8 mm exactly (international yard, 1959).
 */
export const UNITS = {
  mm: { quantity: 'length', toBase: '1', signed: false },
  um: { quantity: 'length', toBase: '0.001', signed: false },
  m: { quantity: 'length', toBase: '1000', signed: false },
  km: { quantity: 'length', toBase: '1000000', signed: false },
  in: { quantity: 'length', toBase: '25.4', signed: false },
  ft: { quantity: 'length', toBase: '304.8', signed: false },
  s: { quantity: 'time', toBase: '1', signed: false },
  min: { quantity: 'time', toBase: '60', signed: false },
  deg: { quantity: 'angle', toBase: '1', signed: false },
  dB: { quantity: 'loss', toBase: '1', signed: true },
  dBm: { quantity: 'level', toBase: '1', signed: true },
  mW: { quantity: 'power', toBase: '1', signed: false },
  uW: { quantity: 'power', toBase: '0.001', signed: false },
  nW: { quantity: 'power', toBase: '0.000001', signed: false },
  '1': { quantity: 'count', toBase: '1', signed: false },
} as const satisfies Record<string, UnitRow>;

export type Unit = keyof typeof UNITS;
export const UNIT_CODES = Object.keys(UNITS) as [Unit, ...Unit[]];

const FACTORS = new Map<Unit, Decimal>(UNIT_CODES.map((unit) => [unit, parseDecimal(UNITS[unit].toBase)]));
const ONE_TO_ONE = new Set<Unit>(['mm', 's', 'deg', 'dB', 'dBm', 'mW', '1']);

/**
 * Reads a typed value and converts it exactly to the base unit of its quantity.
 * Errors: `value.not_a_number`; `value.negative` where the quantity has no negative values.
 * Example: `toBaseUnit('0.5', 'in')` is 12.7 mm, exactly.
 */
export function toBaseUnit(text: string, unit: Unit): Decimal {
  const value = parseDecimal(text);
  if (value.digits < 0n && !UNITS[unit].signed) throw new DomainError('value.negative', { text, unit });
  if (ONE_TO_ONE.has(unit)) return value;
  return multiplyDecimal(value, FACTORS.get(unit)!);
}

/** True where both units measure the same quantity, so that one can be typed for the other. */
export function sameQuantity(a: Unit, b: Unit): boolean {
  return UNITS[a].quantity === UNITS[b].quantity;
}
