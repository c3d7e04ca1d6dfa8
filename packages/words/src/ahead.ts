import type { PiecesAhead } from '@clear-mark/core';

/** More pieces than this say only that they are many. */
const MANY = 50;
const MOST = 200;

/** How many pieces it may take until so many passes in a row, or that it cannot be said. */
export function aheadWords(ahead: PiecesAhead, wanted: number): string {
  if (ahead.kind === 'none') {
    return ahead.reason === 'no_outcomes'
      ? ''
      : 'Nothing of the last pieces passed, so nothing can be foretold: practise the step first.';
  }
  const whole = (pieces: number): number => Math.max(1, Math.round(pieces));
  if (ahead.pieces === 0) return '';
  if (ahead.pieces > MANY) {
    return `At this rate more than ${MANY} pieces until ${wanted} pass in a row: practise the step first.`;
  }
  const high = ahead.high > MOST ? `over ${MOST}` : String(whole(ahead.high));
  return `At this rate about ${whole(ahead.pieces)} more pieces (${whole(ahead.low)} to ${high}) until ${wanted} pass in a row.`;
}
