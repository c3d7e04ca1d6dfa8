import { selectNth } from '../faces/pixels/quantile.ts';
import { type Camera, project } from './camera.ts';
import type { CameraCard } from './camera-card.ts';
import { type ColourImage, colourAt } from './colour-image.ts';

/**
 * The part of a photograph along the axis of its card, as if seen straight from above: how much each place differs from the paper, in three colours.
 * Columns run along the axis from the end of the fiber to the cable, rows across it.
 */
export interface EndStrip {
  /** Places a mm, both ways. */
  readonly perMm: number;
  readonly columns: number;
  readonly rows: number;
  /** mm on the card of the first column and of the axis; `sign` is -1 where the cable comes in from the other end. */
  readonly startMm: number;
  readonly axisMm: number;
  readonly sign: 1 | -1;
  /** Level against that of the paper there less one: 0 is paper. Three planes, red, green, blue. */
  readonly off: readonly [Float32Array, Float32Array, Float32Array];
  /** Level of the paper along the axis, and share of clipped places of a column near it. */
  readonly paper: Float32Array;
  readonly clipped: Float32Array;
  /** Standard deviation of paper. */
  readonly noise: number;
}

export const HALF_MM = 11;
/** The paper is read on both sides of the axis between these, mm. */
const PAPER = { from: 6, to: 10.6 } as const;
const MOST_PER_MM = 22;
const CLIPPED = 252;
/** Clipped places are counted so near to the axis, mm. */
const NEAR_MM = 3.5;

/** Draws the strip. `pxPerMm`: pixels a mm on the card. */
export function endStrip(image: ColourImage, camera: Camera, card: CameraCard, pxPerMm: number): EndStrip {
  const perMm = Math.max(6, Math.min(MOST_PER_MM, pxPerMm * 1.1));
  const columns = Math.floor(card.widthMm * perMm);
  const half = Math.floor(HALF_MM * perMm);
  const rows = 2 * half + 1;
  const axisMm = (card.axis.from.yMm + card.axis.to.yMm) / 2;
  const level = [0, 1, 2].map(() => new Float32Array(rows * columns));
  // Places between are drawn as lines run between places some mm apart: a lens bends nothing within them.
  const every = Math.max(1, Math.round(perMm * 1));
  for (let r = 0; r < rows; r++) {
    const y = axisMm + (r - half) / perMm;
    for (let from = 0; from < columns; from += every) {
      const to = Math.min(columns, from + every);
      const a = project(camera, [from / perMm, y, 0]);
      const b = project(camera, [to / perMm, y, 0]);
      for (let k = from; k < to; k++) {
        const t = (k - from) / (to - from);
        const x = a.x + (b.x - a.x) * t;
        const v = a.y + (b.y - a.y) * t;
        for (let c = 0; c < 3; c++) level[c]![r * columns + k] = colourAt(image, c, x, v);
      }
    }
  }
  return againstPaper(level, { columns, rows, half, perMm, axisMm });
}

function againstPaper(
  level: readonly Float32Array[],
  {
    columns,
    rows,
    half,
    perMm,
    axisMm,
  }: { columns: number; rows: number; half: number; perMm: number; axisMm: number },
): EndStrip {
  const paper = new Float32Array(columns);
  const clipped = new Float32Array(columns);
  let squares = 0;
  let count = 0;
  const off = level.map((plane, c) => {
    const sides = [-1, 1].map((side) =>
      smooth(sideOf(plane, columns, half, perMm, side), Math.round(3 * perMm)),
    );
    const out = new Float32Array(plane.length);
    for (let k = 0; k < columns; k++) {
      const up = sides[0]![k]!;
      const down = sides[1]![k]!;
      if (c === 1) paper[k] = (up + down) / 2;
      for (let r = 0; r < rows; r++) {
        const t = Math.max(0, Math.min(1, 0.5 + (r - half) / perMm / (PAPER.from + PAPER.to)));
        const behind = up + (down - up) * t;
        const own = plane[r * columns + k]!;
        out[r * columns + k] = Number.isFinite(own) && behind > 8 ? own / behind - 1 : 0;
        const away = Math.abs(r - half) / perMm;
        if (c === 1 && away > PAPER.from && away < PAPER.to && Math.abs(out[r * columns + k]!) < 0.15) {
          squares += out[r * columns + k]! ** 2;
          count += 1;
        }
        if (c === 1 && away < NEAR_MM && own >= CLIPPED) clipped[k] = clipped[k]! + 1 / (2 * NEAR_MM * perMm);
      }
    }
    return out;
  });
  const noise = Math.max(0.004, Math.sqrt(squares / Math.max(1, count)));
  return {
    perMm,
    columns,
    rows,
    startMm: 0,
    axisMm,
    sign: 1,
    off: [off[0]!, off[1]!, off[2]!],
    paper,
    clipped,
    noise,
  };
}

/** Level of the paper on one side of the axis, by column: brighter than half of what lies there, for shadows and a second cable are darker. */
function sideOf(
  plane: Float32Array,
  columns: number,
  half: number,
  perMm: number,
  side: number,
): Float32Array {
  const from = Math.round(PAPER.from * perMm);
  const to = Math.min(half, Math.round(PAPER.to * perMm));
  const some = new Float32Array(to - from + 1);
  const out = new Float32Array(columns);
  for (let k = 0; k < columns; k++) {
    let n = 0;
    for (let r = from; r <= to; r++) {
      const value = plane[(half + side * r) * columns + k]!;
      if (Number.isFinite(value)) some[n++] = value;
    }
    out[k] = n === 0 ? 0 : selectNth(some.slice(0, n), Math.floor(0.6 * n));
  }
  return out;
}

/** Running medians, then means, over so many to each side. */
function smooth(values: Float32Array, reach: number): Float32Array {
  const step = Math.max(1, Math.round(reach / 6));
  const medians = values.map((_, k) => {
    const near: number[] = [];
    for (let j = k - reach; j <= k + reach; j += step) if (j >= 0 && j < values.length) near.push(values[j]!);
    return selectNth(Float32Array.from(near), near.length >> 1);
  });
  return medians.map((_, k) => {
    let sum = 0;
    let n = 0;
    for (let j = k - step; j <= k + step; j++) {
      if (j < 0 || j >= medians.length) continue;
      sum += medians[j]!;
      n += 1;
    }
    return sum / n;
  });
}

/** The strip as it is seen from its other end. */
export function turnedRound(strip: EndStrip): EndStrip {
  const { columns, rows } = strip;
  const flip = (plane: Float32Array): Float32Array => {
    const out = new Float32Array(plane.length);
    for (let r = 0; r < rows; r++)
      for (let k = 0; k < columns; k++)
        out[(rows - 1 - r) * columns + columns - 1 - k] = plane[r * columns + k]!;
    return out;
  };
  return {
    ...strip,
    startMm: (columns - 1) / strip.perMm,
    sign: -1,
    off: [flip(strip.off[0]), flip(strip.off[1]), flip(strip.off[2])],
    paper: Float32Array.from(strip.paper).reverse(),
    clipped: Float32Array.from(strip.clipped).reverse(),
  };
}

/** The place on the card of a column and of a row of a strip, mm. */
export const onCard = (strip: EndStrip, column: number, row: number): { xMm: number; yMm: number } => ({
  xMm: strip.startMm + (strip.sign * column) / strip.perMm,
  yMm: strip.axisMm + (strip.sign * (row - (strip.rows - 1) / 2)) / strip.perMm,
});
