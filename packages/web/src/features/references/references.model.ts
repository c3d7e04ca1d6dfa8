import { driftHolds, referenceLevels } from '@clear-mark/core';
import type { ClassReference } from '@clear-mark/contract';

export type ReferenceState = 'void' | 'drifted' | 'steady' | 'not_read_again' | 'old';

/** How far a reference moved when it was read again, dB, rounded to the thousandth; null while it was not. */
export function driftOf(reference: Pick<ClassReference, 'valueDbm' | 'rereadDbm'>): number | null {
  const drift = referenceLevels(reference)?.driftDb ?? null;
  return drift === null ? null : Math.round(drift * 1000) / 1000;
}

/** What a reference is good for now. `mostDriftDb` and `mostHours` are those of the rules in use. */
export function stateOf(
  reference: ClassReference,
  now: number,
  { mostDriftDb, mostHours }: { readonly mostDriftDb: number; readonly mostHours: number },
): ReferenceState {
  if (reference.voidReason !== null) return 'void';
  const drift = driftOf(reference);
  if (drift !== null && !driftHolds(drift, mostDriftDb)) return 'drifted';
  if (now - Date.parse(reference.setAt) > mostHours * 3_600_000) return 'old';
  return drift === null ? 'not_read_again' : 'steady';
}
