import { middleOf } from '../../faces/pixels/quantile.ts';
import { runningMean } from '../../faces/pixels/running-mean.ts';
import type { UnrolledFiber } from './unrolled.ts';

/** A thin dark line across the fiber where the ends met. */
export interface JointLine {
  /** Column, and by which share of the light it is darker. */
  readonly at: number;
  readonly depth: number;
}
/** A bubble in the glass: place in pixels from the column and the axis, and its diameter in µm. */
export interface JointBubble {
  readonly at: number;
  readonly across: number;
  readonly diameterUm: number;
  readonly diameterSd: number;
  readonly depth: number;
}

const LINE = { least: 0.035, noises: 5, rows: 0.65, widthUm: 2.4, mostUm: 7 };
/** Rows within this share of the half width are looked at: nearer to the edges the light bends. */
const WITHIN = 0.86;
const BUBBLE = { least: 0.15, noises: 6, leastUm: 5, mostUm: 45, within: 0.78, round: 2.2 };
/** Levels under this show no mark. */
const LIT = 22;

/** Looks for a line across the fiber. */
export function findLine(fiber: UnrolledFiber, umPerPx: number, half: number): JointLine | null {
  const { columns, reach, level, ratio } = fiber;
  const most = Math.min(reach, Math.floor(WITHIN * half));
  const rows: number[] = [];
  for (let r = reach - most; r <= reach + most; r++) rows.push(r);
  const seen = new Float32Array(columns).fill(1);
  for (let k = 0; k < columns; k++) {
    let own = 0;
    let usual = 0;
    for (const r of rows) {
      const value = level[r * columns + k]!;
      const share = ratio[r * columns + k]!;
      if (!(value > LIT * share)) continue;
      own += value;
      usual += value / Math.max(0.05, share);
    }
    if (usual > 0) seen[k] = own / usual;
  }
  const wide = Math.max(0, Math.round(LINE.widthUm / umPerPx / 2));
  const mean = runningMean(seen, wide);
  const noise = 1.4826 * middleOf(mean.map((m) => Math.abs(m - 1)));
  const at = lowest(mean, Math.round(12 / umPerPx));
  const depth = 1 - mean[at]!;
  if (depth < Math.max(LINE.least, LINE.noises * noise)) return null;
  // Across the whole fiber, and thin: dust is neither.
  let dark = 0;
  let of = 0;
  for (const r of rows) {
    let share = 0;
    for (let k = at - wide; k <= at + wide; k++) share += ratio[r * columns + k]! / (2 * wide + 1);
    if (!(level[r * columns + at]! > LIT * 0.5)) continue;
    of += 1;
    if (share < 1 - depth / 3) dark += 1;
  }
  if (of === 0 || dark < LINE.rows * of) return null;
  let width = 0;
  for (let k = at; k >= 0 && mean[k]! < 1 - depth / 2; k--) width += 1;
  for (let k = at + 1; k < columns && mean[k]! < 1 - depth / 2; k++) width += 1;
  if (width * umPerPx > LINE.mostUm) return null;
  return { at: fiber.from + at, depth };
}

/** Looks for a bubble: a round dark place, or a dark ring, well inside of the fiber. The darkest is taken. */
export function findBubble(fiber: UnrolledFiber, umPerPx: number, half: number): JointBubble | null {
  const { columns, reach, ratio, level } = fiber;
  const rows = 2 * reach + 1;
  const soft = smoothed(ratio, columns, rows);
  const most = Math.floor(BUBBLE.within * half);
  const inside = new Float32Array(columns * rows);
  let n = 0;
  for (let r = reach - most; r <= reach + most; r++)
    for (let k = 0; k < columns; k++)
      if (level[r * columns + k]! > LIT) inside[n++] = Math.abs(soft[r * columns + k]! - 1);
  if (n === 0) return null;
  const noise = 1.4826 * middleOf(inside.slice(0, n));
  const least = Math.max(BUBBLE.least, BUBBLE.noises * noise);
  const taken = new Uint8Array(columns * rows);
  let best: JointBubble | null = null;
  const away = Math.round(8 / umPerPx);
  for (let r = Math.max(0, reach - most); r <= Math.min(rows - 1, reach + most); r++) {
    for (let k = away; k < columns - away; k++) {
      const i = r * columns + k;
      if (taken[i] === 1 || 1 - soft[i]! < least) continue;
      const whole = spotAt(soft, taken, columns, rows, k, r, least * 0.55);
      // Its size from a third of its darkness on: the lens takes from its rim.
      const again = new Uint8Array(columns * rows);
      const spot = spotAt(
        soft,
        again,
        columns,
        rows,
        whole.darkest % columns,
        Math.floor(whole.darkest / columns),
        0.32 * whole.depth,
      );
      const wide = (spot.right - spot.left + 1) * umPerPx;
      const tall = (spot.bottom - spot.top + 1) * umPerPx;
      const diameter = Math.sqrt(wide * tall);
      if (diameter < BUBBLE.leastUm || diameter > BUBBLE.mostUm) continue;
      if (Math.max(wide, tall) > BUBBLE.round * Math.min(wide, tall)) continue;
      if (best && best.depth >= spot.depth) continue;
      best = {
        at: fiber.from + (spot.left + spot.right) / 2,
        across: (spot.top + spot.bottom) / 2 - reach,
        diameterUm: diameter,
        diameterSd: Math.hypot(0.06 * diameter, 0.7 * umPerPx, 0.6),
        depth: spot.depth,
      };
    }
  }
  return best;
}

interface Spot {
  left: number;
  right: number;
  top: number;
  bottom: number;
  depth: number;
  /** Place of its darkest level. */
  darkest: number;
}
/** All that hangs together with a dark place. */
function spotAt(
  soft: Float32Array,
  taken: Uint8Array,
  columns: number,
  rows: number,
  k: number,
  r: number,
  least: number,
): Spot {
  const spot: Spot = { left: k, right: k, top: r, bottom: r, depth: 0, darkest: r * columns + k };
  const open = [r * columns + k];
  taken[open[0]!] = 1;
  while (open.length > 0) {
    const i = open.pop()!;
    const x = i % columns;
    const y = (i - x) / columns;
    spot.left = Math.min(spot.left, x);
    spot.right = Math.max(spot.right, x);
    spot.top = Math.min(spot.top, y);
    spot.bottom = Math.max(spot.bottom, y);
    if (1 - soft[i]! > spot.depth) {
      spot.depth = 1 - soft[i]!;
      spot.darkest = i;
    }
    for (const j of [x > 0 ? i - 1 : -1, x < columns - 1 ? i + 1 : -1, i - columns, i + columns]) {
      if (j < 0 || j >= columns * rows || taken[j] === 1 || 1 - soft[j]! < least) continue;
      taken[j] = 1;
      open.push(j);
    }
  }
  return spot;
}

function smoothed(ratio: Float32Array, columns: number, rows: number): Float32Array {
  const out = new Float32Array(ratio.length).fill(1);
  for (let r = 1; r < rows - 1; r++) {
    for (let k = 1; k < columns - 1; k++) {
      let sum = 0;
      for (let dr = -1; dr <= 1; dr++)
        for (let dk = -1; dk <= 1; dk++) sum += ratio[(r + dr) * columns + k + dk]!;
      out[r * columns + k] = sum / 9;
    }
  }
  return out;
}

/** The place of the least value, so far from both ends. */
function lowest(values: Float32Array, away: number): number {
  let at = Math.min(away, values.length - 1);
  for (let k = at; k < values.length - away; k++) if (values[k]! < values[at]!) at = k;
  return at;
}
