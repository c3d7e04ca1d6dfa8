import {
  type Markers,
  pulseMetres,
  type Trace,
  type TraceAnalysis,
  type TraceEvent,
  type TraceOutline,
  type TraceWindow,
} from '@clear-mark/core';

/** Number to pixel. */
export type ToPixel = (value: number) => number;

/** Where a place on the fiber is drawn, and the other way round. */
export interface Axis {
  readonly toPx: (metres: number) => number;
  readonly toM: (px: number) => number;
}

/** The outline as the `d` of an SVG path: each column from its lowest to its highest level; a gap where there is none. */
export function outlinePath(
  { lows, highs }: TraceOutline,
  leftPx: number,
  columnPx: number,
  y: ToPixel,
): string {
  let d = '';
  let pen = false;
  for (let c = 0; c < lows.length; c++) {
    const low = lows[c]!;
    if (Number.isNaN(low)) {
      pen = false;
      continue;
    }
    const x = (leftPx + (c + 0.5) * columnPx).toFixed(1);
    const high = highs[c]!;
    d += `${pen ? 'L' : 'M'}${x} ${y(high).toFixed(1)}`;
    if (high !== low) d += `V${y(low).toFixed(1)}`;
    pen = true;
  }
  return d;
}

/** Levels under the lowest line of backscatter that are still shown: the noise behind the end says nothing; and over the highest, where reflections are only tall. */
const BELOW_DB = 4;
const ABOVE_DB = 8;
const ROOM = 0.06;
const LEAST_DB = 0.5;

/** From which level to which a view goes, so that what it shows fills it. */
export function levelRange(
  outlines: readonly TraceOutline[],
  analyses: readonly (TraceAnalysis | null)[],
): readonly [low: number, high: number] {
  let low = Infinity;
  let high = -Infinity;
  let line = Infinity;
  let top = -Infinity;
  outlines.forEach((o, i) => {
    const to = o.fromM + o.columnM * o.lows.length;
    for (const { fromM, toM, line: l } of analyses[i]?.lines ?? []) {
      if (toM < o.fromM || fromM > to) continue;
      const half = Math.abs(l.slope) * (l.n / 2);
      line = Math.min(line, l.level - half);
      top = Math.max(top, l.level + half);
    }
    for (let c = 0; c < o.lows.length; c++) {
      if (o.lows[c]! < low) low = o.lows[c]!;
      if (o.highs[c]! > high) high = o.highs[c]!;
    }
  });
  if (low > high) return [-1, 0];
  if (top > -Infinity) high = Math.min(high, top + ABOVE_DB);
  // By the highest of each column: a point of noise may lie as low as the file can say.
  low = Math.max(low, lowOf(outlines) - BELOW_DB);
  const from = Math.min(high - LEAST_DB, Math.max(low, line === Infinity ? low : line - BELOW_DB));
  const room = ROOM * (high - from);
  return [from - room, high + room];
}

/** All but the lowest of the columns' highest levels lie above this. */
const LOW_SHARE = 0.1;
function lowOf(outlines: readonly TraceOutline[]): number {
  const highs = outlines.flatMap((o) => Array.from(o.highs)).filter((v) => !Number.isNaN(v));
  return highs.sort((a, b) => a - b)[Math.floor(LOW_SHARE * highs.length)] ?? -Infinity;
}

export type MarkerPart = 'a' | 'b' | 'before-from' | 'before-to' | 'after-from' | 'after-to';

/** A marker or an end of a window moved to a place; a window goes along with its marker. */
export function movedMarker(markers: Markers, part: MarkerPart, toM: number): Markers {
  const shifted = (w: TraceWindow, by: number): TraceWindow => ({ fromM: w.fromM + by, toM: w.toM + by });
  switch (part) {
    case 'a':
      return { ...markers, aM: toM, before: shifted(markers.before, toM - markers.aM) };
    case 'b':
      return { ...markers, bM: toM, after: shifted(markers.after, toM - markers.bM) };
    case 'before-from':
      return { ...markers, before: { ...markers.before, fromM: toM } };
    case 'before-to':
      return { ...markers, before: { ...markers.before, toM } };
    case 'after-from':
      return { ...markers, after: { ...markers.after, fromM: toM } };
    case 'after-to':
      return { ...markers, after: { ...markers.after, toM } };
    default: {
      const never: never = part;
      return never;
    }
  }
}

/** How much of a line beside a marker its window takes, and how far from the event it stays. */
const WINDOW_SHARE = 0.6;
const CLEAR_PULSES = 2.5;
const CLEAR_M = 3;

/** Markers around events `from` to `to` (one event: the same), each window on the line beside it. */
export function markersAround(
  trace: Trace,
  analysis: TraceAnalysis,
  from: TraceEvent,
  to: TraceEvent,
): Markers {
  const clear = Math.max(CLEAR_M, CLEAR_PULSES * pulseMetres(trace));
  const neighbours = analysis.events.filter((e) => !e.ghost).map((e) => e.positionM);
  const leftEnd = Math.max(
    trace.firstM,
    ...neighbours.filter((m) => m < from.positionM - trace.spacingM).map((m) => m + clear),
  );
  const rightEnd = Math.min(
    trace.firstM + (trace.levelsDb.length - 1) * trace.spacingM,
    ...neighbours.filter((m) => m > to.positionM + trace.spacingM).map((m) => m - 2 * trace.spacingM),
  );
  const aM = from.positionM - 2 * trace.spacingM;
  const bM = to === from ? from.positionM : to.positionM - 2 * trace.spacingM;
  const afterFrom = bM + clear;
  return {
    aM,
    bM: Math.max(bM, aM + trace.spacingM),
    before: { fromM: aM - WINDOW_SHARE * (aM - leftEnd), toM: aM },
    after: {
      fromM: afterFrom,
      toM: afterFrom + Math.max(trace.spacingM, WINDOW_SHARE * (rightEnd - afterFrom)),
    },
  };
}

/** Markers for a trace of which nothing is known: in the middle of what is seen. */
export function markersIn(fromM: number, toM: number): Markers {
  const at = (share: number): number => fromM + share * (toM - fromM);
  return {
    aM: at(0.4),
    bM: at(0.6),
    before: { fromM: at(0.2), toM: at(0.4) },
    after: { fromM: at(0.62), toM: at(0.8) },
  };
}

const FEET = 0.3048;
/** A distance on a trace with one digit, in the person's unit. */
export const placeWords = (metres: number, unit: 'm' | 'ft'): string =>
  unit === 'm' ? `${metres.toFixed(1)} m` : `${(metres / FEET).toFixed(1)} ft`;
export const inUnit = (metres: number, unit: 'm' | 'ft'): number => (unit === 'm' ? metres : metres / FEET);
