import { middleOf } from '../faces/pixels/quantile.ts';
import { robustFit } from '../side-view/robust.ts';
import { type Camera, project } from './camera.ts';
import type { CameraCard } from './camera-card.ts';
import { type ColourImage, type Planes, readRow } from './colour-image.ts';

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
  readonly off: Planes;
  /** How much each place differs from paper beyond its noise, the most of three colours. */
  readonly differs: Float32Array;
  /** Share of the places near the axis that are brighter than paper or as good as white, by column. */
  readonly glaring: Float32Array;
  /** Standard deviation of paper. */
  readonly noise: number;
}

export const HALF_MM = 11;
/** The paper is read on both sides of the axis between these, mm. */
const PAPER = { from: 6, to: 10.6 } as const;
const MOST_PER_MM = 17;
/** Brighter than paper by this share in every colour is light thrown back; it is counted so near to the axis, mm. */
const BRIGHTER = 0.07;
/** A level that is as good as white, of 255. */
const WHITE = 251;
const NEAR_MM = 3.5;

/** Draws the strip. `pxPerMm`: pixels a mm on the card. */
export function endStrip(image: ColourImage, camera: Camera, card: CameraCard, pxPerMm: number): EndStrip {
  const perMm = Math.max(6, Math.min(MOST_PER_MM, pxPerMm * 1.1));
  const columns = Math.floor(card.widthMm * perMm);
  const half = Math.floor(HALF_MM * perMm);
  const rows = 2 * half + 1;
  const axisMm = (card.axis.from.yMm + card.axis.to.yMm) / 2;
  const plane = (): Float32Array => new Float32Array(rows * columns);
  const level: Planes = [plane(), plane(), plane()];
  // Places between are drawn as lines run between places some mm apart: a lens bends nothing within them.
  const every = Math.max(1, Math.round(perMm * 1));
  for (let r = 0; r < rows; r++) {
    const y = axisMm + (r - half) / perMm;
    for (let from = 0; from < columns; from += every) {
      const to = Math.min(columns, from + every);
      const a = project(camera, [from / perMm, y, 0]);
      const b = project(camera, [to / perMm, y, 0]);
      readRow(image, a, b, to - from, level, r * columns + from);
    }
  }
  return againstPaper(level, { columns, rows, half, perMm, axisMm });
}

/** Levels become what they differ from paper by, in the same planes. */
function againstPaper(
  level: Planes,
  {
    columns,
    rows,
    half,
    perMm,
    axisMm,
  }: { columns: number; rows: number; half: number; perMm: number; axisMm: number },
): EndStrip {
  const near = Math.floor(NEAR_MM * perMm);
  const nearAxis = { columns, from: half - near, to: half + near };
  // Before levels become differences: what the camera could not tell from white.
  const glaring = shareOver(level, WHITE, nearAxis);
  const light = lightOf(level, columns, rows, perMm);
  const most = new Float32Array(rows * columns);
  level.forEach((plane, c) => takePaper(plane, light[c]!, columns, rows, most));
  const green = level[1];
  shareOver(level, BRIGHTER, nearAxis).forEach((share, k) => (glaring[k] = Math.max(glaring[k]!, share)));
  const noise = noiseOf(green, { columns, rows, half, perMm });
  // What noise makes of the largest of three.
  const floor = 0.85 * noise;
  for (let i = 0; i < most.length; i++) {
    const beyond = most[i]! - floor;
    most[i] = beyond > 0 ? beyond : 0;
  }
  return {
    perMm,
    columns,
    rows,
    startMm: 0,
    axisMm,
    sign: 1,
    off: level,
    differs: most,
    glaring,
    noise,
  };
}

/** Share of every second of the rows given that lies over a value in every colour, by column. */
function shareOver(
  [red, green, blue]: Planes,
  value: number,
  { columns, from, to }: { columns: number; from: number; to: number },
): Float32Array {
  const share = new Float32Array(columns);
  const each = 1 / (Math.floor((to - from) / 2) + 1);
  for (let r = from; r <= to; r += 2) {
    for (let k = 0, i = r * columns; k < columns; k++, i++) {
      if (green[i]! > value && red[i]! > value && blue[i]! > value) share[k]! += each;
    }
  }
  return share;
}

/** Levels of one colour become what they differ from the light on the paper by; `most` keeps the largest of the colours. */
function takePaper(
  plane: Float32Array,
  light: readonly number[],
  columns: number,
  rows: number,
  most: Float32Array,
): void {
  const bow = light[3]!;
  for (let r = 0; r < rows; r++) {
    const v = (2 * r) / rows - 1;
    const flat = light[0]! + v * (light[2]! + v * light[5]!);
    const along = light[1]! + v * light[4]!;
    for (let k = 0, i = r * columns; k < columns; k++, i++) {
      const u = (2 * k) / columns - 1;
      const behind = flat + u * (along + u * bow);
      const own = plane[i]!;
      const differs = own >= 0 && behind > 8 ? own / behind - 1 : 0;
      plane[i] = differs;
      const size = Math.abs(differs);
      if (size > most[i]!) most[i] = size;
    }
  }
}

/** Standard deviation of the paper on both sides of the axis. */
function noiseOf(
  green: Float32Array,
  { columns, rows, half, perMm }: { columns: number; rows: number; half: number; perMm: number },
): number {
  let squares = 0;
  let count = 0;
  for (let r = 0; r < rows; r++) {
    const away = Math.abs(r - half) / perMm;
    if (away <= PAPER.from || away >= PAPER.to) continue;
    for (let i = r * columns; i < (r + 1) * columns; i++) {
      const differs = green[i]!;
      if (Math.abs(differs) >= 0.15) continue;
      squares += differs * differs;
      count += 1;
    }
  }
  return Math.max(0.004, Math.sqrt(squares / Math.max(1, count)));
}

/**
 * The light on the paper: a surface of the second degree through most of it, by squares of some size; cable, shadow and glare are the lesser part. Its
 * coefficients of 1, u, v, u², uv and v², which go from -1 to 1 along and across.
 */
function lightOf(
  level: Planes,
  columns: number,
  rows: number,
  perMm: number,
): readonly (readonly number[])[] {
  const by = Math.max(1, Math.round(SQUARE_MM * perMm));
  // Without the border of the card, where the desk may lie.
  const first = Math.round(BORDER_MM * perMm);
  const terms: number[][] = [];
  const means: readonly number[][] = level.map(() => []);
  const termsAt = (k: number, r: number): number[] => {
    const u = (2 * k) / columns - 1;
    const v = (2 * r) / rows - 1;
    return [1, u, v, u * u, u * v, v * v];
  };
  for (let top = 0; top + by <= rows; top += by) {
    for (let left = first; left + by <= columns - first; left += by) {
      const found = level.map((plane) => meanOf(plane, columns, left, top, by));
      if (found.some(Number.isNaN)) continue;
      terms.push(termsAt(left + by / 2, top + by / 2));
      found.forEach((mean, c) => means[c]!.push(mean));
    }
  }
  return means.map((levels) => {
    const usual = levels.length === 0 ? 0 : middleOf(Float32Array.from(levels));
    const flat = [usual, 0, 0, 0, 0, 0];
    return robustFit(terms, levels, { start: flat, least: 2, most: 0.05 * usual + 2 })?.coefficients ?? flat;
  });
}
/** The mean of a square, NaN where half of it or more lies outside of the picture. */
function meanOf(plane: Float32Array, columns: number, left: number, top: number, by: number): number {
  let sum = 0;
  let n = 0;
  for (let r = top; r < top + by; r++) {
    for (let i = r * columns + left; i < r * columns + left + by; i++) {
      const value = plane[i]!;
      if (!(value >= 0)) continue;
      sum += value;
      n += 1;
    }
  }
  return n < (by * by) / 2 ? Number.NaN : sum / n;
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
