import { resolveEntries, slotKey } from './resolve-entries.ts';
import type { Entry } from './types.ts';

/**
 * The ids of what stands for a criterion and part: results, and a trainee's proposals beside them. A further entry for the
 * same place names them as what it supersedes.
 */
export function standingIds(entries: readonly Entry[], criterionId: string, part: string): string[] {
  const slot = resolveEntries(
    entries.filter((e) => e.criterionId === criterionId || e.kind === 'retract'),
  ).get(slotKey(criterionId, part));
  return slot ? [...slot.heads, ...slot.proposals].map((e) => e.id) : [];
}
