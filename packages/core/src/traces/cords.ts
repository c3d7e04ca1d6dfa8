import type { TraceAnalysis } from './analyse-trace.ts';

/** Where a link lies on a trace, metres from the port. */
export interface LinkRange {
  readonly fromM: number;
  readonly toM: number;
}

/** The label of a cord is right to this. */
const OFF_M = 3;
const OFF_SHARE = 0.01;

/**
 * Where the link lies by the lengths of the cords: the event nearest to where a cord ends, if it is as near as its label may be wrong,
 * and that place otherwise. Null where nobody said how long the launch cord is, the end is not on the trace, or nothing is left between the cords. A receive cord of null or 0
 * m is none.
 */
export function linkBetweenCords(
  { events }: TraceAnalysis,
  launchM: number | null,
  receiveM: number | null,
): LinkRange | null {
  const end = events.find((e) => e.kind === 'end')?.positionM;
  if (launchM === null || end === undefined) return null;
  const places = events.filter((e) => !e.ghost).map((e) => e.positionM);
  const snapped = (m: number): number => {
    const nearest = places.reduce((best, p) => (Math.abs(p - m) < Math.abs(best - m) ? p : best), Infinity);
    return Math.abs(nearest - m) <= OFF_M + OFF_SHARE * m ? nearest : m;
  };
  const fromM = launchM === 0 ? 0 : snapped(launchM);
  const toM = receiveM ? snapped(end - receiveM) : end;
  return toM > fromM ? { fromM, toM } : null;
}

/**
 * Where the link lies by whatever is known: the lengths of the cords, else the first and the last landmark of the file. Null where neither
 * says it.
 */
export function linkOnTrace(
  analysis: TraceAnalysis,
  marksM: readonly number[],
  launchM: number | null,
  receiveM: number | null,
): LinkRange | null {
  const fromM = marksM[0];
  const toM = marksM.at(-1);
  if (launchM !== null) return linkBetweenCords(analysis, launchM, receiveM);
  return fromM !== undefined && toM !== undefined && toM > fromM ? { fromM, toM } : null;
}
