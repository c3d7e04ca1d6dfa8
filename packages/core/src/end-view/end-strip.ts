import { fitBackground } from '../side-view/background.ts';
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
    const light = lightOf(plane, columns, rows, perMm);
    const out = new Float32Array(plane.length);
    for (let k = 0; k < columns; k++) {
      if (c === 1) paper[k] = light(k, half);
      for (let r = 0; r < rows; r++) {
        const behind = light(k, r);
        const own = plane[r * columns + k]!;
        out[r * columns + k] = Number.isFinite(own) && behind > 8 ? own / behind - 1 : 0;
        const away = Math.abs(r - half) / perMm;
        if (c === 1 && away > PAPER.from && away < PAPER.to && Math.abs(out[r * columns + k]!) < 0.15) {
          squares += out[r * columns + k]! ** 2;
          count += 1;
        }
        // Clipped near the axis and not further out: light thrown back, and no bright picture.
        if (c === 1 && own >= CLIPPED) {
          if (away < NEAR_MM) clipped[k] = clipped[k]! + 1 / (2 * NEAR_MM * perMm);
          else if (away > PAPER.from && away < PAPER.to)
            clipped[k] = clipped[k]! - 1 / (2 * (PAPER.to - PAPER.from) * perMm);
        }
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

/** The light on the paper: a surface of the second degree through what is brightest, in squares of some size. */
function lightOf(
  plane: Float32Array,
  columns: number,
  rows: number,
  perMm: number,
): (k: number, r: number) => number {
  const by = Math.max(1, Math.round(SQUARE_MM * perMm));
  // Without the border of the card and of the rows beside it, where the desk may lie.
  const first = Math.round(BORDER_MM * perMm);
  const width = Math.floor((columns - 2 * first) / by);
  const height = Math.floor(rows / by);
  const level = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      let sum = 0;
      let n = 0;
      for (let r = y * by; r < (y + 1) * by; r++) {
        for (let k = first + x * by; k < first + (x + 1) * by; k++) {
          const value = plane[r * columns + k]!;
          if (!Number.isFinite(value)) continue;
          sum += value;
          n += 1;
        }
      }
      level[y * width + x] = n === 0 ? 0 : sum / n;
    }
  }
  const { at } = fitBackground({ width, height, level });
  return (k, r) => at((k - first) / by - 0.5, r / by - 0.5);
}
/** Side of a square whose mean is taken, and what is left out at both ends of the strip, mm. */
const SQUARE_MM = 0.25;
const BORDER_MM = 1.5;

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
