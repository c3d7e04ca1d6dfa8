import { middleOf } from '../faces/pixels/quantile.ts';
import { robustFit } from '../side-view/robust.ts';
import { type Camera, project } from './camera.ts';
import type { CameraCard } from './camera-card.ts';
import { type ColourImage, readColours } from './colour-image.ts';

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
  /** How much each place differs from paper beyond its noise, the most of three colours. */
  readonly differs: Float32Array;
  /** Share of the places near the axis that are brighter than paper, by column. */
  readonly glaring: Float32Array;
  /** Standard deviation of paper. */
  readonly noise: number;
}

export const HALF_MM = 11;
/** The paper is read on both sides of the axis between these, mm. */
const PAPER = { from: 6, to: 10.6 } as const;
const MOST_PER_MM = 22;
/** Brighter than paper by this share in every colour is light thrown back; it is counted so near to the axis, mm. */
const BRIGHTER = 0.07;
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
        readColours(image, a.x + (b.x - a.x) * t, a.y + (b.y - a.y) * t, level, r * columns + k);
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
  const glaring = new Float32Array(columns);
  let squares = 0;
  let count = 0;
  const off = level.map((plane, c) => {
    const light = lightOf(plane, columns, rows, perMm);
    const out = new Float32Array(plane.length);
    for (let r = 0; r < rows; r++) {
      const v = (2 * r) / rows - 1;
      const flat = light[0]! + v * (light[2]! + v * light[5]!);
      const along = light[1]! + v * light[4]!;
      const bow = light[3]!;
      const away = Math.abs(r - half) / perMm;
      const isPaper = c === 1 && away > PAPER.from && away < PAPER.to;
      for (let k = 0; k < columns; k++) {
        const u = (2 * k) / columns - 1;
        const behind = flat + u * (along + u * bow);
        const own = plane[r * columns + k]!;
        const differs = own >= 0 && behind > 8 ? own / behind - 1 : 0;
        out[r * columns + k] = differs;
        if (isPaper && Math.abs(differs) < 0.15) {
          squares += differs * differs;
          count += 1;
        }
      }
    }
    return out;
  });
  const near = Math.floor(NEAR_MM * perMm);
  for (let r = half - near; r <= half + near; r++) {
    for (let k = 0; k < columns; k++) {
      const i = r * columns + k;
      const isBright = off[0]![i]! > BRIGHTER && off[1]![i]! > BRIGHTER && off[2]![i]! > BRIGHTER;
      if (isBright) glaring[k]! += 1 / (2 * near + 1);
    }
  }
  const noise = Math.max(0.004, Math.sqrt(squares / Math.max(1, count)));
  return {
    perMm,
    columns,
    rows,
    startMm: 0,
    axisMm,
    sign: 1,
    off: [off[0]!, off[1]!, off[2]!],
    differs: differences(off, noise),
    glaring,
    noise,
  };
}

function differences(off: readonly Float32Array[], noise: number): Float32Array {
  const red = off[0]!;
  const green = off[1]!;
  const blue = off[2]!;
  const out = new Float32Array(red.length);
  // What noise makes of the largest of three.
  const floor = 0.85 * noise;
  for (let i = 0; i < out.length; i++)
    out[i] = Math.max(0, Math.max(Math.abs(red[i]!), Math.abs(green[i]!), Math.abs(blue[i]!)) - floor);
  return out;
}

/**
 * The light on the paper: a surface of the second degree through most of it, by squares of some size; cable, shadow and glare are the lesser part. Its
 * coefficients of 1, u, v, u², uv and v², which go from -1 to 1 along and across.
 */
function lightOf(plane: Float32Array, columns: number, rows: number, perMm: number): readonly number[] {
  const by = Math.max(1, Math.round(SQUARE_MM * perMm));
  // Without the border of the card, where the desk may lie.
  const first = Math.round(BORDER_MM * perMm);
  const terms: number[][] = [];
  const levels: number[] = [];
  const termsAt = (k: number, r: number): number[] => {
    const u = (2 * k) / columns - 1;
    const v = (2 * r) / rows - 1;
    return [1, u, v, u * u, u * v, v * v];
  };
  for (let top = 0; top + by <= rows; top += by) {
    for (let left = first; left + by <= columns - first; left += by) {
      let sum = 0;
      let n = 0;
      for (let r = top; r < top + by; r++) {
        for (let k = left; k < left + by; k++) {
          const value = plane[r * columns + k]!;
          if (!Number.isFinite(value)) continue;
          sum += value;
          n += 1;
        }
      }
      if (n < (by * by) / 2) continue;
      terms.push(termsAt(left + by / 2, top + by / 2));
      levels.push(sum / n);
    }
  }
  const usual = levels.length === 0 ? 0 : middleOf(Float32Array.from(levels));
  const fit = robustFit(terms, levels, { start: [usual, 0, 0, 0, 0, 0], least: 2, most: 0.05 * usual + 2 });
  return fit?.coefficients ?? [usual, 0, 0, 0, 0, 0];
}
/** Side of a square whose mean is taken, and what is left out at both ends of the strip, mm. */
const SQUARE_MM = 1;
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
    differs: flip(strip.differs),
    glaring: Float32Array.from(strip.glaring).reverse(),
  };
}

/** The place on the card of a column and of a row of a strip, mm. */
export const onCard = (strip: EndStrip, column: number, row: number): { xMm: number; yMm: number } => ({
  xMm: strip.startMm + (strip.sign * column) / strip.perMm,
  yMm: strip.axisMm + (strip.sign * (row - (strip.rows - 1) / 2)) / strip.perMm,
});
