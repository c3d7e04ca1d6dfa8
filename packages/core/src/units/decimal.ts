import { DomainError } from '../domain-error.ts';

/** An exact decimal: `digits` times ten to the power of minus `scale`. `scale` is 0 or more. */
export interface Decimal {
  readonly digits: bigint;
  readonly scale: number;
}

const PATTERN = /^([+-]?)(\d{0,15})(?:[.,](\d{0,15}))?$/;

/**
 * Reads a typed decimal number exactly. Point and comma are both the decimal sign; thousands separators,
 * exponents, units and more than 15 digits on a side are refused.
 * Unit: none. Error: `value.not_a_number` with the text as given. Exact.
 * Example: `parseDecimal('10,50')` is 1050 with scale 2.
 */
export function parseDecimal(text: string): Decimal {
  const match = PATTERN.exec(text.trim());
  const whole = match?.[2] ?? '';
  const fraction = match?.[3] ?? '';
  if (!match || whole.length + fraction.length === 0) {
    throw new DomainError('value.not_a_number', { text: text.slice(0, 40) });
  }
  const digits = BigInt(whole + fraction);
  return { digits: match[1] === '-' ? -digits : digits, scale: fraction.length };
}

const POWERS: readonly bigint[] = Array.from({ length: 64 }, (_, i) => 10n ** BigInt(i));

function powerOfTen(exponent: number): bigint {
  return POWERS[exponent] ?? 10n ** BigInt(exponent);
}

function aligned(a: Decimal, b: Decimal): [bigint, bigint, number] {
  if (a.scale === b.scale) return [a.digits, b.digits, a.scale];
  const scale = Math.max(a.scale, b.scale);
  return [a.digits * powerOfTen(scale - a.scale), b.digits * powerOfTen(scale - b.scale), scale];
}

/** -1, 0 or 1 as `a` is less than, equal to or greater than `b`. Exact. `compareDecimal(0.1, 0.10)` is 0. */
export function compareDecimal(a: Decimal, b: Decimal): -1 | 0 | 1 {
  const [x, y] = aligned(a, b);
  return x < y ? -1 : x > y ? 1 : 0;
}

/** Exact sum. Example: 0.1 + 0.2 is 0.3. */
export function addDecimal(a: Decimal, b: Decimal): Decimal {
  const [x, y, scale] = aligned(a, b);
  return { digits: x + y, scale };
}

/** Exact difference `a - b`. */
export function subtractDecimal(a: Decimal, b: Decimal): Decimal {
  return addDecimal(a, { digits: -b.digits, scale: b.scale });
}

/** Exact product. Example: 0.5 in times 25.4 is 12.70 mm. */
export function multiplyDecimal(a: Decimal, b: Decimal): Decimal {
  return { digits: a.digits * b.digits, scale: a.scale + b.scale };
}

const HALF: Decimal = { digits: 5n, scale: 1 };

/** Exact mean of two. Example: of 0.18 and -0.06 it is 0.060. */
export function meanOfTwo(a: Decimal, b: Decimal): Decimal {
  return multiplyDecimal(addDecimal(a, b), HALF);
}

/** The nearest double. Relative error at most 2^-53. */
export function decimalToNumber(a: Decimal): number {
  return Number(decimalToText(a));
}

/** Plain text with a point, trailing zeros of the fraction kept. Example: 1050 with scale 2 is `10.50`. */
export function decimalToText(a: Decimal): string {
  const negative = a.digits < 0n;
  const digits = (negative ? -a.digits : a.digits).toString().padStart(a.scale + 1, '0');
  const cut = digits.length - a.scale;
  const text = a.scale === 0 ? digits : `${digits.slice(0, cut)}.${digits.slice(cut)}`;
  return negative ? `-${text}` : text;
}
