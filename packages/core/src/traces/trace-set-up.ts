import { pulseMetres } from './find-events.ts';
import type { TraceAnalysis } from './analyse-trace.ts';
import type { LinkRange } from './cords.ts';
import type { Trace } from './trace.ts';

/** What of the set-up the trace itself shows; null where it does not. */
export interface TraceSetUp {
  readonly launchLonger: boolean | null;
  readonly receiveCord: boolean | null;
  readonly range: boolean;
  readonly pulse: boolean | null;
  readonly index: boolean;
}

/** The range against the whole length: the noise behind the end has to be seen, and the points are not to be spent on it. House. */
const RANGE = { least: 1.2, most: 4 };
/** A pulse is no longer than this part of the link, or the metre that any may have. House. */
const PULSE_SHARE = 0.05;
const LEAST_PULSE_M = 1.1;
/** Group indices of silica fiber (common practice). */
const INDEX = { least: 1.46, most: 1.5 };

/**
 * The set-up by the trace: launch cord longer than the link, a line behind its far connector, range and pulse for its length, an index of silica.
 * Example: 500 m of launch cord before a link of 200 m is longer.
 */
export function traceSetUp(trace: Trace, analysis: TraceAnalysis, link: LinkRange | null): TraceSetUp {
  const end = analysis.events.find((e) => e.kind === 'end')?.positionM ?? null;
  const rangeM = trace.levelsDb.length * trace.spacingM;
  const lengthM = link ? link.toM - link.fromM : null;
  return {
    launchLonger: link && lengthM !== null ? link.fromM >= lengthM : null,
    receiveCord: link && end !== null ? end > link.toM + pulseMetres(trace) : null,
    range: end === null ? false : rangeM >= RANGE.least * end && rangeM <= RANGE.most * end,
    pulse: lengthM === null ? null : pulseMetres(trace) <= Math.max(LEAST_PULSE_M, PULSE_SHARE * lengthM),
    index: trace.groupIndex >= INDEX.least && trace.groupIndex <= INDEX.most,
  };
}
