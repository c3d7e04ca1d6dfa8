import { DomainError } from '../domain-error.ts';
import { furtherPieces } from '../sequential/index.ts';
import type { Policy } from './policy.ts';

export interface PolicyOperating {
  /** Chance of a failure at each piece. */
  readonly p: number;
  /** Chance that so many pieces show the passes in a row, and that they ask for retraining. */
  readonly competent: number;
  readonly retrain: number;
  /** Expected pieces to the passes in a row; null where none is expected to pass. */
  readonly pieces: number | null;
}

const MOST_PIECES = 2000;

/**
 * What a policy makes of a trainee who fails each piece with one chance, over a number of pieces: exact, by the chain of
 * streaks. Competence is called falsely of a bad one, retraining needlessly of a good one. Input: p from 0 to 1, whole
 * pieces from 1 to 2000. Errors: `sequential.bad_share`, `stats.bad_count`. Absolute error under 1e-12. Example: three in a
 * row within 20 pieces of a trainee who fails three in ten: 0.986.
 */
export function policyOperating(
  policy: Pick<Policy, 'passesInARow' | 'failsInARow' | 'retrainAfter'>,
  p: number,
  pieces: number,
): PolicyOperating {
  if (!Number.isInteger(pieces) || pieces < 1 || pieces > MOST_PIECES) {
    throw new DomainError('stats.bad_count', { pieces, most: MOST_PIECES });
  }
  const further = furtherPieces(policy.passesInARow, 0, 1 - p);
  return {
    p,
    competent: streakWithin(1 - p, policy.passesInARow, 1, pieces),
    retrain: streakWithin(p, policy.failsInARow, policy.retrainAfter, pieces),
    pieces: further.kind === 'pieces' ? further.pieces : null,
  };
}

/** Chance that `wanted` in a row, each of the chance `p`, stand at the end of some piece from the `from`th on. */
function streakWithin(p: number, wanted: number, from: number, pieces: number): number {
  // Streaks of 0 to wanted; a longer one is as good as wanted.
  let chances = new Float64Array(wanted + 1);
  chances[0] = 1;
  let reached = 0;
  for (let n = 1; n <= pieces; n++) {
    const next = new Float64Array(wanted + 1);
    for (let streak = 0; streak <= wanted; streak++) {
      next[Math.min(wanted, streak + 1)]! += chances[streak]! * p;
      next[0]! += chances[streak]! * (1 - p);
    }
    if (n >= from) {
      reached += next[wanted]!;
      next[wanted] = 0;
    }
    chances = next;
  }
  return Math.min(1, reached);
}
