import type { UncertaintyPart } from '../sheet/index.ts';
import { uncertaintyBudget } from './budget.ts';

/**
 * Expanded uncertainty U = 2 u in dB of independent components; see `uncertaintyBudget` for its lines.
 * Example: rectangular 0.1 and standard 0.03 give 2 sqrt(0.01/3 + 0.0009) = 0.130 dB.
 */
export function expandedUncertaintyDb(parts: readonly UncertaintyPart[]): number {
  return uncertaintyBudget(parts).expandedDb;
}
