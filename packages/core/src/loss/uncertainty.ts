import { DomainError } from '../domain-error.ts';
import type { UncertaintyPart } from '../sheet/index.ts';

/**
 * Expanded uncertainty U = 2 u in dB, u the root sum of squares of the standard uncertainties
 * (JCGM 100:2008, 4.3 and 5.1): a rectangular half-width a counts a / sqrt(3), triangular a / sqrt(6).
 * Error: `loss.bad_uncertainty` for a negative part. Relative error under 1e-15 a part.
 * Example: rectangular 0.1 and standard 0.03 give 2 sqrt(0.01/3 + 0.0009) = 0.130 dB.
 */
export function expandedUncertaintyDb(parts: readonly UncertaintyPart[]): number {
  let sum = 0;
  for (const part of parts) {
    if (!(part.db >= 0)) throw new DomainError('loss.bad_uncertainty', { name: part.name, db: part.db });
    const divisor = part.shape === 'rectangular' ? 3 : part.shape === 'triangular' ? 6 : 1;
    sum += (part.db * part.db) / divisor;
  }
  return 2 * Math.sqrt(sum);
}
