import type { SeriesReading } from '@clear-mark/core';

/** How a series was read, in a line. */
export const seriesWords = (r: SeriesReading): string =>
  [
    `${r.found} of ${r.events} events found`,
    `${r.invented} invented`,
    `${r.ghostsCalled} ${r.ghostsCalled === 1 ? 'ghost' : 'ghosts'} called`,
    `${r.verdictsRight} of ${r.traces} verdicts right`,
  ].join(', ');
