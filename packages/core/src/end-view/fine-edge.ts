import { middleOf } from '../faces/pixels/quantile.ts';
import { type Beside, besideOf } from './beside-cable.ts';
import type { EndStrip } from './end-strip.ts';

/** A place along a strip, in columns, with its standard uncertainty in mm. */
export interface LayerEdge {
  readonly column: number;
  readonly sdMm: number;
}

/** Behind an edge its layer is read between these, before it what lies there, mm. */
const BEHIND_MM = [0.5, 3] as const;
const BEFORE_MM = [0.35, 1] as const;
const NEAR_MM = 1;
/** Lines whose layer differs by less from what lies before it say nothing. */
const LEAST_DIFFERENCE = 0.03;

/**
 * An edge to a part of a column, line by line beside the middle: where each is half of the layer and half of what lies before it. The end of a tube is
 * seen at its upper or its lower rim, which stand as far above and below its axis as the tube is deep there: the line through the places against that
 * depth, at depth 0, is the edge at the axis.
 */
export function fineEdge(
  strip: EndStrip,
  middle: Float32Array,
  near: number,
  band: readonly [number, number],
  radiusMm: number,
  lean: number,
): LayerEdge | null {
  const { perMm } = strip;
  const reach = Math.round((BEHIND_MM[1] + NEAR_MM) * perMm);
  const from = Math.max(0, near - reach);
  const lines = besideOf(strip, middle, from, near + reach, 1, band);
  let at = near - from;
  let found: { readonly place: number; readonly depth: number; readonly weight: number }[] = [];
  for (let round = 0; round < 2; round++) {
    found = lines.away.flatMap((away, j) => {
      const crossing = crossingOf(lines, j, at, perMm);
      const depth = Math.sqrt(Math.max(0, radiusMm ** 2 - away ** 2));
      return crossing === null ? [] : [{ ...crossing, depth }];
    });
    if (found.length < 2) return null;
    at = Math.round(middleOf(Float32Array.from(found.map((f) => f.place))));
  }
  const { place, sd } = atAxis(found, lean * perMm, LINE_SD_MM * perMm);
  return { column: from + place, sdMm: sd / perMm };
}

/** Where a line beside the middle turns from what lies before an edge into its layer. */
function crossingOf(
  { count, size, values }: Beside,
  line: number,
  at: number,
  perMm: number,
): { readonly place: number; readonly weight: number } | null {
  const meanOf = (from: number, to: number): number[] | null => {
    const a = Math.max(0, Math.round(from));
    const b = Math.min(count - 1, Math.round(to));
    if (b < a) return null;
    return [0, 1, 2].map((c) => {
      const some = new Float32Array(b - a + 1);
      for (let k = a; k <= b; k++) some[k - a] = values[k * size + 3 * line + c]!;
      return middleOf(some);
    });
  };
  const layer = meanOf(at + BEHIND_MM[0] * perMm, at + BEHIND_MM[1] * perMm);
  const before = meanOf(at - BEFORE_MM[1] * perMm, at - BEFORE_MM[0] * perMm);
  if (!layer || !before) return null;
  const way = layer.map((l, c) => l - before[c]!);
  const square = way.reduce((sum, w) => sum + w * w, 0);
  if (Math.sqrt(square) < LEAST_DIFFERENCE) return null;
  const shareAt = (k: number): number =>
    way.reduce((sum, w, c) => sum + w * (values[k * size + 3 * line + c]! - before[c]!), 0) / square;
  const reach = NEAR_MM * perMm;
  let best: number | null = null;
  for (let k = Math.max(1, Math.ceil(at - reach)); k <= Math.min(count - 1, at + reach); k++) {
    const a = shareAt(k - 1);
    const b = shareAt(k);
    if (a >= 0.5 || b < 0.5) continue;
    const place = k - 1 + (0.5 - a) / (b - a);
    if (best === null || Math.abs(place - at) < Math.abs(best - at)) best = place;
  }
  return best === null ? null : { place: best, weight: Math.min(1, square) };
}

/** The slope is never held firmer than this, columns a mm. */
const LEAST_LEAN = 0.02;
/** What one line leaves open at least, mm. */
const LINE_SD_MM = 0.06;

/** The line through places against depth, in columns, with a slope no steeper than is likely; `lean` and `leastSd` are in columns too. */
function atAxis(
  found: readonly { readonly place: number; readonly depth: number; readonly weight: number }[],
  lean: number,
  leastSd: number,
): { readonly place: number; readonly sd: number } {
  const start = middleOf(Float32Array.from(found, (f) => f.place));
  const scatter = 1.48 * middleOf(Float32Array.from(found, (f) => Math.abs(f.place - start)));
  const lineSd = Math.max(leastSd, scatter);
  const kept = found.filter((f) => Math.abs(f.place - start) < 4 * lineSd);
  const prior = 1 / Math.max(LEAST_LEAN, lean) ** 2;
  const weights = kept.map((f) => f.weight);
  const total = weights.reduce((a, b) => a + b, 0);
  if (total === 0) return { place: start, sd: 2 * lineSd };
  // Lines beside one another are not independent: together they count as a few.
  const each = Math.min(kept.length, 6) / (total * lineSd ** 2);
  let sw = 0;
  let sd = 0;
  let sdd = prior;
  let sp = 0;
  let sdp = 0;
  kept.forEach((f, i) => {
    const w = weights[i]! * each;
    sw += w;
    sd += w * f.depth;
    sdd += w * f.depth * f.depth;
    sp += w * (f.place - start);
    sdp += w * f.depth * (f.place - start);
  });
  const det = sw * sdd - sd * sd;
  return { place: start + (sp * sdd - sd * sdp) / det, sd: Math.sqrt(sdd / det) };
}
