import { middleOf } from '../faces/pixels/quantile.ts';
import type { EndStrip } from './end-strip.ts';

/** Across the thin fiber, mm: what is summed, and what is taken for paper beside it. */
const ACROSS = { fiber: 0.34, from: 0.55, to: 1 } as const;

/** Where a thin fiber and its coating end, columns, with standard uncertainties in mm. */
export interface ThinEdges {
  readonly tip: number;
  readonly glass: number;
  readonly sdMm: number;
  readonly glassSdMm: number;
}
/** Grid of the two places along the thin fiber, mm, and how much of it is fiber at least. */
const GRID_MM = 0.1;
const LEAST_MM = 1.5;

/**
 * Where the coating and where the fiber end: two steps in how much it differs from the paper across it, by least squares over all pairs of places. Null
 * where nothing thin is seen.
 */
export function thinEdges(strip: EndStrip, middle: Float32Array, from: number): ThinEdges | null {
  const { perMm } = strip;
  const cells = Math.floor((from - 0.25 * perMm) / (GRID_MM * perMm));
  if (cells < 12) return null;
  // From the thick part outwards.
  const seen = Array.from({ length: cells }, (_, i) =>
    seenThin(strip, middle, from - 0.25 * perMm - (i + 0.5) * GRID_MM * perMm),
  );
  const clean = seen.map((_, i) => middleOf(Float32Array.from(seen.slice(Math.max(0, i - 2), i + 3))));
  const sum = [0];
  const squares = [0];
  for (const v of clean) {
    sum.push(sum.at(-1)! + v);
    squares.push(squares.at(-1)! + v * v);
  }
  const left = (a: number, b: number): number =>
    b <= a ? 0 : squares[b]! - squares[a]! - (sum[b]! - sum[a]!) ** 2 / (b - a);
  const mean = (a: number, b: number): number => (b <= a ? 0 : (sum[b]! - sum[a]!) / (b - a));
  // One step alone: the fiber ends.
  let one = { cost: Infinity, tip: 0 };
  for (let tip = Math.round(LEAST_MM / GRID_MM); tip <= cells; tip++) {
    const cost = left(0, tip) + left(tip, cells);
    if (cost < one.cost) one = { cost, tip };
  }
  let two = { cost: Infinity, glass: 0, tip: 0 };
  for (let glass = 5; glass < cells - 5; glass++) {
    for (let tip = glass + 8; tip <= cells; tip++) {
      const cost = left(0, glass) + left(glass, tip) + left(tip, cells);
      if (cost < two.cost && mean(glass, tip) > mean(tip, cells)) two = { cost, glass, tip };
    }
  }
  const spread = Math.sqrt(Math.min(one.cost, two.cost) / cells) || 1e-6;
  const isTwo =
    two.cost < 0.8 * one.cost && Math.abs(mean(0, two.glass) - mean(two.glass, two.tip)) > 1.2 * spread;
  const tipAt = isTwo ? two.tip : one.tip;
  const glassAt = isTwo ? two.glass : 0;
  const fiber = mean(glassAt, tipAt);
  const paper = mean(tipAt, cells);
  if (!(fiber - paper > 0.6 * spread) || fiber - paper < LEAST_SEEN_MM) return null;
  const column = (i: number): number => from - 0.25 * perMm - i * GRID_MM * perMm;
  // Steps are seen to within the cells that noise needs to hide them (Hinkley 1970, roughly).
  const sd = (step: number): number =>
    GRID_MM * Math.min(12, Math.max(0.4, (spread / Math.max(1e-6, step)) ** 2));
  return {
    tip: column(tipAt),
    glass: isTwo ? column(glassAt) : from,
    sdMm: sd(fiber - paper),
    glassSdMm: isTwo ? sd(Math.abs(mean(0, glassAt) - fiber)) : 0.15,
  };
}
/** A fiber differs from paper by as much as so many mm of black. */
const LEAST_SEEN_MM = 0.004;

/** How much lies across the fiber at a column: mm of what differs wholly from paper. */
function seenThin({ columns, rows, perMm, differs }: EndStrip, middle: Float32Array, at: number): number {
  const reach = Math.max(1, Math.round((GRID_MM * perMm) / 2));
  let own = 0;
  let beside = 0;
  let n = 0;
  let of = 0;
  for (let k = Math.round(at) - reach; k <= Math.round(at) + reach; k++) {
    if (k < 0 || k >= columns) continue;
    const row = middle[k]!;
    for (let r = Math.round(row - ACROSS.to * perMm); r <= row + ACROSS.to * perMm; r++) {
      if (r < 0 || r >= rows) continue;
      const away = Math.abs(r - row) / perMm;
      const value = differs[r * columns + k]!;
      if (away <= ACROSS.fiber) {
        own += value;
        n += 1;
      } else if (away >= ACROSS.from) {
        beside += value;
        of += 1;
      }
    }
  }
  return n === 0 || of === 0 ? 0 : (own / n - beside / of) * 2 * ACROSS.fiber;
}
