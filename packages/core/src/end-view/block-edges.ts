import { middleOf } from '../faces/pixels/quantile.ts';
import type { EndStrip } from './end-strip.ts';

/** What blocks of a strip's columns show across it, in cells of some rows. Lists by block, then by cell. */
export interface BlockEdges {
  readonly blocks: number;
  readonly cells: number;
  /** Columns a block, and rows a cell. */
  readonly block: number;
  readonly rowsACell: number;
  /** The first row of the first cell. */
  readonly firstRow: number;
  readonly blockMm: number;
  readonly cellMm: number;
  /** How much the light steps between a cell and the one before it, against what it usually does on paper. */
  readonly steep: Float32Array;
  /** The same from 0 (nothing) to 1 (an edge for certain), and how much a thin line in the cell differs from both sides of it. */
  readonly step: Float32Array;
  readonly line: Float32Array;
}

/** Length of a block, height of a cell, and how far from the axis they are read, mm. */
const BLOCK_MM = 0.5;
const CELL_MM = 0.09;
const REACH_MM = 10.6;
/** A step so many times the usual one is an edge as likely as not. */
const HALF_SURE = 8;
/** Across a thin fiber: half of its width, and what is taken for paper beside it, mm. */
const THIN = { half: 0.12, from: 0.25, to: 0.5 } as const;

/** Reads a strip in blocks, as far from its axis as a cable lies. */
export function blockEdges({ columns, rows, perMm, off }: EndStrip): BlockEdges {
  const block = Math.max(2, Math.round(BLOCK_MM * perMm));
  const rowsACell = Math.max(1, Math.round(CELL_MM * perMm));
  const blocks = Math.floor(columns / block);
  const cells = Math.floor(Math.min(rows, 2 * REACH_MM * perMm) / rowsACell);
  const firstRow = Math.floor((rows - cells * rowsACell) / 2);
  const cellMm = rowsACell / perMm;
  const size = blocks * cells;
  const steep = new Float32Array(size);
  const line = new Float32Array(size);
  for (const plane of off) {
    const mean = new Float32Array(size);
    for (let c = 0; c < cells; c++) {
      const top = firstRow + c * rowsACell;
      for (let r = top; r < top + rowsACell; r++) {
        for (let b = 0, i = r * columns; b < blocks; b++) {
          let sum = 0;
          for (let k = 0; k < block; k++, i++) sum += plane[i]!;
          mean[b * cells + c]! += sum / (block * rowsACell);
        }
      }
    }
    addSteps(steep, mean, blocks, cells);
    addLines(line, mean, blocks, cells, cellMm);
  }
  inUsual(steep);
  inUsual(line);
  const sure = (values: Float32Array): Float32Array => values.map((v) => (v * v) / (v * v + HALF_SURE ** 2));
  return {
    blocks,
    cells,
    block,
    rowsACell,
    firstRow,
    blockMm: block / perMm,
    cellMm,
    steep,
    step: sure(peaksOf(steep, blocks, cells)),
    line: sure(line),
  };
}

/** Two cells against the two before them, the most of all colours. */
function addSteps(into: Float32Array, mean: Float32Array, blocks: number, cells: number): void {
  for (let b = 0; b < blocks; b++) {
    for (let c = 2, i = b * cells + 2; c + 1 < cells; c++, i++) {
      const step = Math.abs(mean[i]! + mean[i + 1]! - mean[i - 1]! - mean[i - 2]!);
      if (step > into[i]!) into[i] = step;
    }
  }
}
/** What differs from both sides of it, and the same way. */
function addLines(
  into: Float32Array,
  mean: Float32Array,
  blocks: number,
  cells: number,
  cellMm: number,
): void {
  const half = Math.max(0, Math.round(THIN.half / cellMm - 0.5));
  const from = Math.max(half + 1, Math.round(THIN.from / cellMm));
  const to = Math.max(from, Math.round(THIN.to / cellMm));
  for (let b = 0; b < blocks; b++) {
    for (let c = to, i = b * cells + to; c + to < cells; c++, i++) {
      let own = 0;
      for (let k = i - half; k <= i + half; k++) own += mean[k]!;
      let left = 0;
      let right = 0;
      for (let d = from; d <= to; d++) {
        left += mean[i - d]!;
        right += mean[i + d]!;
      }
      own /= 2 * half + 1;
      const less = own - left / (to - from + 1);
      const more = own - right / (to - from + 1);
      if (!(less * more > 0)) continue;
      const most = Math.min(Math.abs(less), Math.abs(more));
      if (most > into[i]!) into[i] = most;
    }
  }
}

/** What is about as steep as the steepest next to it: an edge is spread over some cells. */
function peaksOf(steep: Float32Array, blocks: number, cells: number): Float32Array {
  const out = new Float32Array(steep.length);
  for (let b = 0; b < blocks; b++) {
    for (let c = 2, i = b * cells + 2; c + 2 < cells; c++, i++) {
      let most = 0;
      for (let k = i - 2; k <= i + 2; k++) if (steep[k]! > most) most = steep[k]!;
      if (steep[i]! >= PEAK * most) out[i] = steep[i]!;
    }
  }
  return out;
}
const PEAK = 0.8;

/** A picture with hardly any noise has no edges in it for that, share of the paper's light. */
const LEAST_USUAL = 0.006;
/** In units of the median of what is not nothing, as a normal deviate would have it; every seventh value says it. */
function inUsual(values: Float32Array): void {
  const some: number[] = [];
  for (let i = 0; i < values.length; i += 7) if (values[i]! > 0) some.push(values[i]!);
  const usual = some.length === 0 ? 1 : Math.max(LEAST_USUAL, 1.48 * middleOf(Float32Array.from(some)));
  for (let i = 0; i < values.length; i++) values[i]! /= usual;
}
