import { middleOf } from '../faces/pixels/quantile.ts';
import { type BlockEdges, blockEdges } from './block-edges.ts';
import {
  BUFFER,
  BUFFER_RADIUS_MM,
  FIRST_JACKET,
  JACKET_MM,
  LIKELY,
  OUT,
  PAPER,
  THIN,
  type Way,
  wayThrough,
  WIDTHS,
} from './cable-way.ts';
import { type EndStrip, turnedRound } from './end-strip.ts';

/** A cable as it runs through a strip, from the end of its fiber on: what lies where along one axis. Columns. */
export interface CablePath {
  /** Row of its axis, by column. */
  readonly middle: Float32Array;
  /** Where the thin fiber, the buffer and the jacket are first seen, to half a millimetre; null for a layer that is not there. */
  readonly thin: number | null;
  readonly buffer: number | null;
  readonly jacket: number | null;
  /** The last column at which it is seen, and how wide the jacket is, mm. */
  readonly last: number;
  readonly jacketMm: number | null;
}

/** Less than so many mm of cable is nothing, and a second one that scores this share of the first is a second cable. */
const LEAST_MM = 5;
const SECOND = { share: 0.28, besideMm: 1.8 } as const;

/** What is seen of a cable in a strip: where it runs, and whether the strip was turned round for that because it comes in from the first columns. */
export interface FoundCable {
  readonly path: CablePath;
  readonly strip: EndStrip;
}
/**
 * Follows a cable through a strip, from whichever side it comes in. That its layers lie on one axis tells a white cable from its shadow.
 */
export function findCable(given: EndStrip): FoundCable | 'no_cable' | 'two_cables' {
  let strip = given;
  let edges = blockEdges(strip);
  let best = wayThrough(edges);
  if (!best || !isWhole(best, edges.blockMm)) {
    const other = wayThrough(reversed(edges));
    if (other && other.score > (best?.score ?? 0)) {
      strip = turnedRound(given);
      edges = blockEdges(strip);
      best = wayThrough(edges);
    }
  }
  if (!best || best.cableBlocks * edges.blockMm < LEAST_MM) return 'no_cable';
  const rest = withoutNear(edges, best);
  const second = showsEdges(rest) ? wayThrough(rest) : null;
  if (second && second.score > SECOND.share * best.score) return 'two_cables';
  return { path: inColumns(strip, edges, best), strip };
}
/** Whether enough blocks show two edges as far apart as those of a cable. */
function showsEdges({ blocks, cells, blockMm, cellMm, step }: BlockEdges): boolean {
  let long = 0;
  for (let b = 0; b < blocks; b++) {
    let first = -1;
    let last = -1;
    for (let c = 0; c < cells; c++) {
      if (step[b * cells + c]! < LIKELY) continue;
      if (first < 0) first = c;
      last = c;
    }
    if ((last - first) * cellMm > JACKET_MM.least - 2 * cellMm) long += blockMm;
  }
  return long > 2 * LEAST_MM;
}
/** Whether a way goes over something thin to a jacket that leaves at the last columns: then nothing comes in from the first. */
function isWhole({ layer }: Way, blockMm: number): boolean {
  const jacket = layer.findIndex((l) => l >= FIRST_JACKET && l < OUT);
  const first = layer.findIndex((l) => l !== PAPER);
  return jacket - first > LEAST_MM / blockMm && first > LEAST_MM / blockMm && !layer.includes(OUT);
}
function reversed(edges: BlockEdges): BlockEdges {
  const { blocks, cells } = edges;
  const turned = (values: Float32Array): Float32Array => {
    const out = new Float32Array(values.length);
    for (let b = 0; b < blocks; b++)
      out.set(values.subarray(b * cells, (b + 1) * cells), (blocks - 1 - b) * cells);
    return out;
  };
  return { ...edges, steep: turned(edges.steep), step: turned(edges.step), line: turned(edges.line) };
}

/** The same edges without those that the cable and its shadow make. */
function withoutNear(edges: BlockEdges, { layer, cell }: Way): BlockEdges {
  const step = edges.step.slice();
  const line = edges.line.slice();
  for (let b = 0; b < edges.blocks; b++) {
    if (layer[b] === PAPER || layer[b] === OUT) continue;
    const half = layer[b]! >= FIRST_JACKET ? WIDTHS[layer[b]! - FIRST_JACKET]! / 2 : BUFFER_RADIUS_MM;
    const reach = Math.round((half + SECOND.besideMm) / edges.cellMm);
    const from = b * edges.cells + Math.max(0, cell[b]! - reach);
    const to = b * edges.cells + Math.min(edges.cells, cell[b]! + reach + 1);
    step.fill(0, from, to);
    line.fill(0, from, to);
  }
  return { ...edges, step, line };
}

/** A way over blocks as one over columns: smooth between their middles. */
function inColumns(strip: EndStrip, edges: BlockEdges, { layer, cell }: Way): CablePath {
  const { columns } = strip;
  const { block, rowsACell, firstRow } = edges;
  const seen = layer.findIndex((l) => l !== PAPER);
  const firstOut = layer.indexOf(OUT);
  const end = firstOut < 0 ? edges.blocks : firstOut;
  const rowAt = (b: number): number => {
    const near: number[] = [];
    for (let j = Math.max(seen, b - 2); j <= Math.min(end - 1, b + 2); j++)
      near.push(middleRow(edges, j, layer[j]!, cell[j]!));
    return firstRow + middleOf(Float32Array.from(near)) * rowsACell + (rowsACell - 1) / 2;
  };
  const rows = Float64Array.from({ length: end - seen }, (_, i) => rowAt(seen + i));
  const middle = new Float32Array(columns);
  for (let k = 0; k < columns; k++) {
    const at = Math.max(0, Math.min(rows.length - 1, (k + 0.5) / block - 0.5 - seen));
    const i = Math.min(rows.length - 1, Math.floor(at));
    const after = rows[Math.min(rows.length - 1, i + 1)]!;
    middle[k] = rows[i]! + (after - rows[i]!) * (at - i);
  }
  const firstOf = (is: (l: number) => boolean): number | null => {
    const b = layer.findIndex(is);
    return b < 0 ? null : b * block;
  };
  const isJacket = (l: number): boolean => l >= FIRST_JACKET && l < OUT;
  const width = layer.find(isJacket);
  return {
    middle,
    thin: firstOf((l) => l === THIN),
    buffer: firstOf((l) => l === BUFFER),
    jacket: firstOf(isJacket),
    last: end * block - 1,
    jacketMm: width === undefined ? null : jacketWidth(edges, layer, cell),
  };
}

/** Between the two edges of a thick layer where both are seen, in cells. */
function bothSides(edges: BlockEdges, b: number, l: number, c: number): readonly [number, number] | null {
  if (l < BUFFER || l >= OUT) return null;
  const half = (l === BUFFER ? BUFFER_RADIUS_MM : WIDTHS[l - FIRST_JACKET]! / 2) / edges.cellMm;
  const left = peakNear(edges, b, c + 0.5 - half);
  const right = peakNear(edges, b, c + 0.5 + half);
  return left === null || right === null ? null : [left, right];
}
function middleRow(edges: BlockEdges, b: number, l: number, c: number): number {
  const sides = bothSides(edges, b, l, c);
  return sides === null ? c : (sides[0] + sides[1] - 1) / 2;
}
/** Where the light steps most near a place between cells; null where it hardly does. */
function peakNear({ steep, cells }: BlockEdges, b: number, at: number): number | null {
  let best = -1;
  for (let i = Math.max(1, Math.round(at) - 2); i <= Math.min(cells - 2, Math.round(at) + 2); i++) {
    if (best < 0 || steep[b * cells + i]! > steep[b * cells + best]!) best = i;
  }
  if (best < 0) return null;
  const own = steep[b * cells + best]!;
  if (own < LEAST_STEEP) return null;
  const before = steep[b * cells + best - 1]!;
  const after = steep[b * cells + best + 1]!;
  const bow = 2 * own - before - after;
  return bow > 0 ? best + Math.max(-0.5, Math.min(0.5, (0.5 * (after - before)) / bow)) : best;
}
/** Steps that are so many times the usual of paper say where an edge is. */
const LEAST_STEEP = 5;

function jacketWidth(edges: BlockEdges, layer: Int16Array, cell: Int16Array): number {
  const found: number[] = [];
  let chosen = 0;
  layer.forEach((l, b) => {
    if (l < FIRST_JACKET || l >= OUT) return;
    chosen = WIDTHS[l - FIRST_JACKET]!;
    const sides = bothSides(edges, b, l, cell[b]!);
    if (sides) found.push((sides[1] - sides[0]) * edges.cellMm);
  });
  return found.length < 5 ? chosen : middleOf(Float32Array.from(found));
}
