import { DomainError } from '../domain-error.ts';
import { decimalToNumber, parseDecimal } from '../units/index.ts';

/**
 * Optical power in dBm: 10 log10(P / 1 mW). Input mW, over 0. Error: `loss.no_power` at 0 or less.
 * Relative error that of Math.log10 (1 ulp). Example: 1 uW (0.001 mW) is -30 dBm.
 */
export function dbmFromMilliwatts(powerMw: number): number {
  if (!(powerMw > 0) || !Number.isFinite(powerMw)) throw new DomainError('loss.no_power', { powerMw });
  return 10 * Math.log10(powerMw);
}

/** Optical power in mW of a level: 10^(dBm / 10). Error: `loss.no_power` without a number. Example: -30 dBm is 0.001. */
export function milliwattsFromDbm(levelDbm: number): number {
  if (!Number.isFinite(levelDbm)) throw new DomainError('loss.no_power', { powerMw: levelDbm });
  return 10 ** (levelDbm / 10);
}

/** Levels in dBm that a power meter of this trade can show; what lies beyond is a slip of the sign or the decimal point. */
const LEVELS = { least: -110, most: 40 };

/**
 * A level in dBm as a person typed it: point or comma. Errors: `value.not_a_number` (also for nothing), `loss.bad_level`
 * outside of -110 to 40 dBm (house). Exact to the nearest double. Example: `-5,90` is -5.9.
 */
export function levelOfText(text: string): number {
  const level = decimalToNumber(parseDecimal(text));
  if (level < LEVELS.least || level > LEVELS.most)
    throw new DomainError('loss.bad_level', { text, ...LEVELS });
  return level;
}

export const POWER_UNITS = ['dBm', 'mW', 'uW', 'nW'] as const;
export type PowerUnit = (typeof POWER_UNITS)[number];
const MILLIWATTS: Readonly<Record<Exclude<PowerUnit, 'dBm'>, number>> = { mW: 1, uW: 1e-3, nW: 1e-6 };

/**
 * The same power in another unit, by way of mW. Error: `loss.no_power` for 0 or less in a linear unit.
 * Relative error a few ulp. Example: 2.5 uW is -26.02 dBm and 2500 nW.
 */
export function convertPower(value: number, from: PowerUnit, to: PowerUnit): number {
  const dbm = from === 'dBm' ? value : dbmFromMilliwatts(value * MILLIWATTS[from]);
  if (to === 'dBm') return dbm;
  return (from === 'dBm' ? milliwattsFromDbm(dbm) : value * MILLIWATTS[from]) / MILLIWATTS[to];
}
