import { DomainError } from '../domain-error.ts';
import { levelOfText } from '../loss/index.ts';
import type { LossReference } from './types.ts';

/** Binary dust forgiven in a computed value; dB. */
const DUST_DB = 1e-6;

/** The level of a reference in dBm, and how far it had moved when it was read again, dB; null while it was not. */
export interface ReferenceLevels {
  readonly setDbm: number;
  readonly driftDb: number | null;
}

/**
 * The levels of a reference as numbers; null where either is none, which must never count as no drift. The drift is the level
 * read again less the one that was set. Example: -5.00 and then -4.95 dBm moved by 0.05 dB.
 */
export function referenceLevels({
  valueDbm,
  rereadDbm,
}: Pick<LossReference, 'valueDbm' | 'rereadDbm'>): ReferenceLevels | null {
  try {
    const setDbm = levelOfText(valueDbm);
    return { setDbm, driftDb: rereadDbm === null ? null : levelOfText(rereadDbm) - setDbm };
  } catch (error) {
    if (error instanceof DomainError) return null;
    throw error;
  }
}

/**
 * Whether a reference that moved by this much still serves: not above the most that is let pass, both in dB; equal is allowed,
 * with 1e-6 dB of dust forgiven. Example: -0.1 dB holds where 0.1 is let pass.
 */
export const driftHolds = (driftDb: number, mostDb: number): boolean => Math.abs(driftDb) <= mostDb + DUST_DB;
