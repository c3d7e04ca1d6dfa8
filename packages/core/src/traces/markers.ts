import { levelAt, type Line, RunningSums, uncertaintyAt } from './running-line.ts';
import type { TraceAnalysis } from './analyse-trace.ts';
import { pulseMetres } from './find-events.ts';
import type { Trace } from './trace.ts';

/** A stretch of a trace in metres, that a line is fitted to. */
export interface TraceWindow {
  readonly fromM: number;
  readonly toM: number;
}
/** Two places on a trace, and a window for a line before the first and one after the second. */
export interface Markers {
  readonly aM: number;
  readonly bM: number;
  readonly before: TraceWindow;
  readonly after: TraceWindow;
}
export const MARKER_PROBLEMS = [
  'crossed',
  'outside',
  'window_empty',
  'window_in_event',
  'window_wrong_side',
  'in_noise',
] as const;
export type MarkerProblem = (typeof MARKER_PROBLEMS)[number];

export type MarkerLoss =
  | { readonly ok: false; readonly why: MarkerProblem }
  | {
      readonly ok: true;
      readonly distanceM: number;
      /** Difference of the levels at both places as they stand. */
      readonly pointsDb: number;
      /** By the line before carried to A and the line after carried to B. */
      readonly linesDb: number;
      readonly uLinesDb: number;
      /** Loss for each km, between the points. */
      readonly dbPerKm: number;
      readonly lines: readonly [Line, Line];
    };

/** A line through fewer points says nothing. */
const LEAST_POINTS = 5;
/** The receiver settles within about two pulses behind an event (common practice). */
const DEAD_PULSES = 2;
const LEAST_DEAD_M = 2;

/**
 * What is lost between markers set by hand: by the points under them, and by least squares through the two windows, each line carried to its
 * marker. Nothing is measured where the markers are crossed or outside of the trace, a window is empty, lies on the wrong side of its marker, holds an event or the dead zone behind one, or where the trace
 * is noise. Shapes: metres from the port; losses in dB.
 */
export function lossByMarkers(trace: Trace, analysis: TraceAnalysis, markers: Markers): MarkerLoss {
  const { aM, bM, before, after } = markers;
  const indexOf = (m: number): number => Math.round((m - trace.firstM) / trace.spacingM);
  const endM = trace.firstM + (trace.levelsDb.length - 1) * trace.spacingM;
  if (![aM, bM, before.fromM, before.toM, after.fromM, after.toM].every(Number.isFinite))
    return no('outside');
  if (aM >= bM || before.fromM > before.toM || after.fromM > after.toM) return no('crossed');
  if (before.fromM < trace.firstM || after.toM > endM) return no('outside');
  if (before.toM > aM || after.fromM < bM) return no('window_wrong_side');
  const ranges = [before, after].map((w) => [indexOf(w.fromM), indexOf(w.toM) + 1] as const);
  if (ranges.some(([from, to]) => to - from < LEAST_POINTS)) return no('window_empty');
  if ([before, after].some((w) => isInEvent(trace, analysis, w))) return no('window_in_event');
  const seenTo = analysis.lines.at(-1)?.toM ?? trace.firstM;
  if (after.toM > seenTo + trace.spacingM || bM > seenTo) return no('in_noise');
  const sums = new RunningSums(trace.levelsDb);
  const [left, right] = ranges.map(([from, to]) => sums.line(from, to)) as [Line, Line];
  const at = (m: number): number => (m - trace.firstM) / trace.spacingM;
  const points = trace.levelsDb[indexOf(aM)]! - trace.levelsDb[indexOf(bM)]!;
  return {
    ok: true,
    distanceM: bM - aM,
    pointsDb: points,
    linesDb: levelAt(left, at(aM)) - levelAt(right, at(bM)),
    uLinesDb: Math.hypot(uncertaintyAt(left, at(aM), left.sd), uncertaintyAt(right, at(bM), right.sd)),
    dbPerKm: (points / (bM - aM)) * 1000,
    lines: [left, right],
  };
}

const no = (why: MarkerProblem): MarkerLoss => ({ ok: false, why });

/** Whether an event, or the dead zone behind it, lies in a window. */
function isInEvent(trace: Trace, { events }: TraceAnalysis, { fromM, toM }: TraceWindow): boolean {
  const dead = Math.max(LEAST_DEAD_M, DEAD_PULSES * pulseMetres(trace));
  return events.some(({ positionM, kind, ghost }) => {
    if (ghost) return false;
    const until = kind === 'non_reflective' ? positionM + dead / 2 : positionM + dead;
    return fromM < until && toM > positionM - trace.spacingM;
  });
}
