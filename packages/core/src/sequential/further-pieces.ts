import { DomainError } from '../domain-error.ts';
import { requireShare } from './rates.ts';

export type FurtherPieces =
  | { readonly kind: 'none'; readonly reason: 'no_pass_expected' }
  | { readonly kind: 'pieces'; readonly pieces: number };

/**
 * Expected further pieces until `wanted` passes in a row, from a present streak, at a pass rate p: (p^-r - p^-j) / (1 - p),
 * r - j at p = 1 (Feller 1968, XIII.7, from memory). Not to be said at p = 0. Input: whole 0 <= streak <= wanted, wanted of 1 and more. Errors:
 * `stats.bad_count`, `sequential.bad_share`. Relative error under 1e-12. Example: 3 in a row at 0.8 from nothing: 4.77.
 */
export function furtherPieces(wanted: number, streak: number, p: number): FurtherPieces {
  if (!Number.isInteger(wanted) || wanted < 1) throw new DomainError('stats.bad_count', { wanted });
  if (!Number.isInteger(streak) || streak < 0 || streak > wanted)
    throw new DomainError('stats.bad_count', { streak });
  requireShare(p);
  if (streak === wanted) return { kind: 'pieces', pieces: 0 };
  if (p === 0) return { kind: 'none', reason: 'no_pass_expected' };
  // The sum p^-(j+1) + ... + p^-r, which stays exact as p nears 1.
  let sum = 0;
  let term = p ** -streak;
  for (let k = streak; k < wanted; k++) sum += term /= p;
  return { kind: 'pieces', pieces: sum };
}
