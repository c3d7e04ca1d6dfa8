import { piecesAhead } from './pieces-ahead.ts';
import type { Policy } from './policy.ts';
import type { StandingName } from './standing.ts';

export interface PlannedPieces {
  readonly pieces: number;
  /** A round to look at again: nothing is foretold, or so much that practising the step comes first. */
  readonly firstRound: boolean;
}

/** More expected pieces than this are no plan. */
const MANY = 50;

/**
 * Pieces to plan for a need: the expected further ones rounded up; the passes in a row where competence lapsed; a first round
 * as long as the window where nothing can be foretold or where more than 50 are expected. Input: standing, marks of the
 * window. Errors: as `piecesAhead`. Example: `FPFPP` to three in a row: 5; `FFF`: a first round of 10.
 */
export function plannedPieces(
  standing: StandingName,
  window: string,
  policy: Pick<Policy, 'passesInARow' | 'window'>,
): PlannedPieces {
  if (standing === 'lapsed') return { pieces: policy.passesInARow, firstRound: false };
  const ahead = piecesAhead(window, policy.passesInARow);
  return ahead.kind === 'pieces' && ahead.pieces <= MANY
    ? { pieces: Math.max(1, Math.ceil(ahead.pieces)), firstRound: false }
    : { pieces: policy.window, firstRound: true };
}
