import type { GreyImage } from '../faces/pixels/image.ts';
import { middleOf } from '../faces/pixels/quantile.ts';
import type { EdgeOnLine } from './edge-profile.ts';

/** One edge in one column of a picture: read from `start` on, `way` rows a step, from light to dark. */
export interface ColumnEdge extends EdgeOnLine {
  readonly x: number;
  readonly start: number;
  readonly way: 1 | -1;
}

/** Steps before the half-way level that count. */
const BEFORE = 3;
/** Light and dark are taken over so many columns. */
const COLUMNS = 48;
/** An edge that is less steep is read well between pixels by itself. */
const STEEP = 0.3;
/** By more than this many pixels nothing wanders: it is dirt, or the joint. */
const MOST = 0.3;
/** With fewer columns the half-way levels stay. */
const LEAST_COLUMNS = 24;

/**
 * Rows of an edge, column by column, as the place of a sharp step that lets through as much light. Where a level is half-way between pixels is read off
 * a straight line from one to the next, and wanders by a tenth of a pixel with where the edge lies within its pixel; sums of light do not, since a
 * pixel is a sum itself. On average both are the same place here. `edges` are of one side of the fiber, in order.
 */
export function balancedRows(image: GreyImage, edges: readonly ColumnEdge[]): Float64Array {
  const rows = Float64Array.from(edges, (e) => e.start + e.way * e.at);
  if (edges.length < LEAST_COLUMNS) return rows;
  if (middleOf(Float32Array.from(edges, (e) => e.steep)) < STEEP) return rows;
  const behind = middleOf(Float32Array.from(edges, (e) => e.valley - Math.ceil(e.at)));
  const light = middlesOf(edges, (e) => e.light);
  const dark = middlesOf(edges, (e) => e.dark);
  // What reaches out of the picture stays as it was read.
  const off = new Float32Array(edges.length).fill(Number.NaN);
  edges.forEach((e, i) => {
    const half = Math.ceil(e.at);
    let steps = half - BEFORE - 0.5;
    for (let k = half - BEFORE; k < half + behind; k++) {
      const row = e.start + e.way * k;
      if (row < 0 || row >= image.height) return;
      steps += (image.data[row * image.width + e.x]! - dark[i]!) / (light[i]! - dark[i]!);
    }
    off[i] = e.way * (steps - e.at);
  });
  const usual = middleOf(off.filter(Number.isFinite));
  return rows.map((row, i) => (Math.abs(off[i]! - usual) <= MOST ? row + off[i]! - usual : row));
}

/** A value's middle over columns nearby, on straight lines between blocks of them. */
function middlesOf(edges: readonly ColumnEdge[], of: (e: ColumnEdge) => number): Float64Array {
  const blocks = Math.max(1, Math.round(edges.length / COLUMNS));
  const each = edges.length / blocks;
  const middles = Array.from({ length: blocks }, (_, b) =>
    middleOf(Float32Array.from(edges.slice(Math.round(b * each), Math.round((b + 1) * each)), of)),
  );
  return Float64Array.from(edges, (_, i) => {
    const place = Math.max(0, Math.min(blocks - 1, (i + 0.5) / each - 0.5));
    const b = Math.min(blocks - 1, Math.floor(place));
    const next = Math.min(blocks - 1, b + 1);
    return middles[b]! + (middles[next]! - middles[b]!) * (place - b);
  });
}
