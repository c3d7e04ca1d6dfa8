import { furtherPieces } from '../sequential/index.ts';
import { wilsonRate } from '../stats/index.ts';
import { isPassMark, withVerdict } from './outcome-marks.ts';

export type PiecesAhead =
  | { readonly kind: 'none'; readonly reason: 'no_outcomes' | 'no_pass_yet' }
  | {
      readonly kind: 'pieces';
      readonly pieces: number;
      /** At the better and the worse end of the rate's interval. */
      readonly low: number;
      readonly high: number;
    };

/**
 * Expected further pieces until so many passes in a row, from the present streak, at the pass rate of the window and at both
 * ends of its 95 % Wilson interval. Input: marks of the window, oldest first, and the passes wanted (1 and more). None
 * without an outcome; none while nothing passed, since then nothing can be foretold. Errors: as `furtherPieces`. Example:
 * `FPFPP` to three in a row: 4.6, from 1.5 to 81.
 */
export function piecesAhead(window: string, wanted: number): PiecesAhead {
  const marks = [...withVerdict(window)];
  const rate = wilsonRate(marks.filter(isPassMark).length, marks.length);
  if (rate.kind === 'none') return { kind: 'none', reason: 'no_outcomes' };
  if (rate.k === 0) return { kind: 'none', reason: 'no_pass_yet' };
  let streak = 0;
  while (streak < wanted && streak < marks.length && isPassMark(marks[marks.length - 1 - streak]!))
    streak += 1;
  const at = (share: number): number => {
    const found = furtherPieces(wanted, streak, share);
    return found.kind === 'pieces' ? found.pieces : Infinity;
  };
  return { kind: 'pieces', pieces: at(rate.share), low: at(rate.high), high: at(rate.low) };
}
