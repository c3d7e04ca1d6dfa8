import type { UncertaintyPart } from '../sheet/index.ts';
import { uncertaintyBudget } from './budget.ts';

/**
 * Expanded uncertainty U = 2 u in dB of independent components; see `uncertaintyBudget` for its lines.
 * Example: rectangular 0.1 and standard 0.03 give 2 sqrt(0.01/3 + 0.0009) = 0.130 dB.
 */
export function expandedUncertaintyDb(parts: readonly UncertaintyPart[]): number {
  return uncertaintyBudget(parts).expandedDb;
}

/**
 * The components once the reference was read again: what it moved by, dB of either sign, in place of what it may move by.
 * A budget without a component for the drift stays as it is. Source: JCGM 100:2008, 4.3.7, a rectangle of that half-width.
 * Example: 0.1 dB allowed and 0.02 dB found is a half-width of 0.02 dB.
 */
export const afterReread = (parts: readonly UncertaintyPart[], driftDb: number): readonly UncertaintyPart[] =>
  parts.map((part) => (part.of === 'drift' ? { ...part, db: Math.abs(driftDb) } : part));
