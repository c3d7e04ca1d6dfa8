import { decimalToNumber, parseDecimal } from '../units/index.ts';
import type { CordStamp } from './types.ts';

export const CORD_CHECK_STATES = ['good', 'overdue', 'failed'] as const;
export type CordCheckState = (typeof CORD_CHECK_STATES)[number];

/** What a test cord itself may read in its check, dB: a little under nothing within the uncertainty, and no slip of the point. House. */
export const CORD_LOSS_DB = { least: -10, most: 10 } as const;

/** Binary dust forgiven; dB. */
const DUST_DB = 1e-6;

/**
 * Whether a test cord may be read with on a day of the class, `2026-03-09`: its check failed, ran out before that day, or
 * holds. A loss equal to its limit holds, and the last day belongs to the check. Error: `value.not_a_number` for losses that
 * are none. Source: common practice, cords are checked each test day. Example: 0.51 dB of 0.5 allowed has failed.
 */
export function cordCheckState(
  { lossDb, limitDb, dueOn }: Pick<CordStamp, 'lossDb' | 'limitDb' | 'dueOn'>,
  day: string,
): CordCheckState {
  const over = decimalToNumber(parseDecimal(lossDb)) - decimalToNumber(parseDecimal(limitDb));
  if (over > DUST_DB) return 'failed';
  return dueOn < day ? 'overdue' : 'good';
}
