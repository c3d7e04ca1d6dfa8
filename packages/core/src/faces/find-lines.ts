import type { FlatFace } from './flatten.ts';
import type { FoundLine } from './found-line.ts';
import { joinPieces } from './join-pieces.ts';
import { smooth, spreadOf } from './smooth.ts';

const WAYS = 24;
/** Pixels that are summed along a direction, and how far the halves reach. */
const ARM = 14;
const SEED = 5;
const FOLLOWS = 3;
const LEAST_LENGTH = 26;
/** A line stands this high over the noise of a pixel, is no wider than this, and this much longer than wide. */
const LEAST_HEIGHT = 0.8;
const MOST_WIDTH = 14;
const LONGER = 3.5;
/** Median height along a line over the mean one. */
const EVEN = 0.5;

/**
 * Lines of low contrast, straight or gently bent: the mean along short pieces of 24 directions, less the mean beside them;
 * a piece counts when both of its halves stand out, which a spot's do not. Strong pieces are followed along their own
 * direction, and a line is what is long enough. Its width is the half-height width of the mean profile across it,
 * with the blur taken out in squares.
 */
export function findLines(face: FlatFace, inside: Uint8Array, blurPx: number): readonly FoundLine[] {
  const { side } = face;
  const spread = spreadOf(smooth(face.level, side, 0.7), face.inside);
  const soft = smooth(face.level, side, 0.8);
  const best = new Float32Array(soft.length);
  const way = new Uint8Array(soft.length);
  const offsets = Array.from({ length: WAYS }, (_, w) => offsetsOf(w, side));
  const noise = offsets.map(() => 0);
  const response = new Float32Array(soft.length);
  for (let w = 0; w < WAYS; w++) {
    noise[w] = respond(side, inside, soft, offsets[w]!, response);
    for (let i = 0; i < soft.length; i++) {
      const v = response[i]! / noise[w]!;
      if (Math.abs(v) > Math.abs(best[i]!)) [best[i], way[i]] = [v, w];
    }
  }
  const seeds: number[] = [];
  for (let i = 0; i < soft.length; i++) if (inside[i] && Math.abs(best[i]!) > SEED) seeds.push(i);
  seeds.sort((a, b) => Math.abs(best[b]!) - Math.abs(best[a]!));
  const taken = new Uint8Array(soft.length);
  const lines: FoundLine[] = [];
  for (const seed of seeds) {
    if (taken[seed]) continue;
    const pixels = follow(side, inside, taken, best, way, seed);
    const line = measure(face, soft, pixels, way, blurPx);
    block(taken, side, pixels, BESIDE + Math.ceil(line?.width ?? 0));
    if (!line || line.height < LEAST_HEIGHT * spread) continue;
    if (line.width > MOST_WIDTH || line.length < LONGER * line.width) continue;
    lines.push(line);
  }
  return joinPieces(lines, side);
}

interface Offsets {
  readonly along: Int32Array;
  readonly beside: readonly [Int32Array, Int32Array];
}

function offsetsOf(w: number, side: number): Offsets {
  const t = (w / WAYS) * Math.PI;
  const [ux, uy] = [Math.cos(t), Math.sin(t)];
  const at = (s: number, n: number): number =>
    Math.round(s * uy + n * ux) * side + Math.round(s * ux - n * uy);
  const along = Int32Array.from({ length: 2 * ARM + 1 }, (_, k) => at(k - ARM, 0));
  const besideAt = (n: number): Int32Array =>
    Int32Array.from({ length: 2 * ARM + 1 }, (_, k) => at(k - ARM, n));
  return { along, beside: [besideAt(7), besideAt(-7)] };
}

/**
 * The weaker half of the piece, less what is beside it; 0 where the halves differ in sign. Returns the spread of one
 * half alone: what the weaker of two would reach by chance is measured against it.
 */
function respond(
  side: number,
  inside: Uint8Array,
  soft: Float32Array,
  { along, beside }: Offsets,
  out: Float32Array,
): number {
  const margin = ARM + 9;
  const halves: number[] = [];
  out.fill(0);
  for (let y = margin; y < side - margin; y++) {
    for (let x = margin; x < side - margin; x++) {
      const i = y * side + x;
      if (!inside[i]) continue;
      let [first, second, around, n] = [0, 0, 0, 0];
      for (let k = 0; k < ARM; k++) first += soft[i + along[k]!]!;
      for (let k = ARM + 1; k <= 2 * ARM; k++) second += soft[i + along[k]!]!;
      for (let k = 0; k <= 2 * ARM; k += 2) {
        for (const b of beside) {
          const at = i + b[k]!;
          if (!inside[at]) continue;
          around += soft[at]!;
          n += 1;
        }
      }
      const base = n > 0 ? around / n : 0;
      const [p, q] = [first / ARM - base, second / ARM - base];
      out[i] = p * q <= 0 ? 0 : Math.abs(p) < Math.abs(q) ? p : q;
      if ((x + y) % 5 === 0) halves.push(Math.abs(p));
    }
  }
  halves.sort((a, b) => a - b);
  return Math.max(1e-3, 1.4826 * (halves[Math.floor(halves.length / 2)] ?? 0));
}

/** From a seed both ways along the line's own direction, always to the strongest of the next pixels. */
function follow(
  side: number,
  inside: Uint8Array,
  taken: Uint8Array,
  best: Float32Array,
  way: Uint8Array,
  seed: number,
): number[] {
  const sign = Math.sign(best[seed]!);
  const go = (from: number, back: boolean): number[] => {
    const path: number[] = [];
    let at = from;
    let t = (way[from]! / WAYS) * Math.PI + (back ? Math.PI : 0);
    for (let step = 0; step < 600; step++) {
      let next = -1;
      let most = FOLLOWS;
      for (const turn of [0, -0.12, 0.12, -0.25, 0.25]) {
        const [x, y] = [at % side, Math.floor(at / side)];
        const nx = Math.round(x + 2 * Math.cos(t + turn));
        const ny = Math.round(y + 2 * Math.sin(t + turn));
        const i = ny * side + nx;
        if (nx < 0 || ny < 0 || nx >= side || ny >= side || !inside[i] || taken[i]) continue;
        const v = sign * best[i]! - Math.abs(turn);
        if (v > most) [most, next] = [v, i];
      }
      if (next < 0) break;
      path.push(next);
      at = next;
      const own = (way[next]! / WAYS) * Math.PI;
      // Of the two ways along a direction the one that goes on.
      const same = Math.cos(own - t) >= 0 ? own : own + Math.PI;
      if (Math.cos(same - t) > 0.9) t = same;
    }
    return path;
  };
  return [...go(seed, true).reverse(), seed, ...go(seed, false)];
}

/** Beside a line its own shadow answers with the other sign. */
const BESIDE = 10;

/** Nothing else begins on a line or close beside it. */
function block(taken: Uint8Array, side: number, pixels: readonly number[], reach: number): void {
  for (const i of pixels) {
    for (let dy = -reach; dy <= reach; dy++) {
      for (let dx = -reach; dx <= reach; dx++) {
        const at = i + dy * side + dx;
        if (at >= 0 && at < taken.length) taken[at] = 1;
      }
    }
  }
}

function measure(
  { side }: FlatFace,
  soft: Float32Array,
  pixels: readonly number[],
  way: Uint8Array,
  blurPx: number,
): FoundLine | null {
  const first = pixels[0]!;
  const last = pixels[pixels.length - 1]!;
  const length = Math.hypot(
    (first % side) - (last % side),
    Math.floor(first / side) - Math.floor(last / side),
  );
  if (length < LEAST_LENGTH) return null;
  const profile = new Float64Array(31);
  const ridge: number[] = [];
  let n = 0;
  for (const i of pixels) {
    const t = (way[i]! / WAYS) * Math.PI;
    const [x, y] = [i % side, Math.floor(i / side)];
    for (let k = 0; k < 31; k++) {
      const s = (k - 15) * 0.5;
      profile[k]! += bilinear(soft, side, x - s * Math.sin(t), y + s * Math.cos(t));
    }
    const beside =
      (soft[i + 7 * side] ?? 0) + (soft[i - 7 * side] ?? 0) + (soft[i + 7] ?? 0) + (soft[i - 7] ?? 0);
    ridge.push(soft[i]! - beside / 4);
    n += 1;
  }
  for (let k = 0; k < 31; k++) profile[k]! /= n;
  const base = (profile[0]! + profile[1]! + profile[29]! + profile[30]!) / 4;
  const heights = Array.from(profile, (v) => v - base);
  const sign = Math.sign(heights.reduce((sum, v) => sum + v, 0));
  const peak = Math.max(...heights.slice(9, 22).map((v) => sign * v));
  const top = heights.findIndex((v, k) => k >= 9 && k < 22 && sign * v === peak);
  if (!(peak > 0)) return null;
  // A spot on the way makes a high mean of few pixels; a line is high along all of itself.
  const along = ridge.map((v) => sign * v).sort((a, b) => a - b);
  if (along[Math.floor(along.length / 2)]! < EVEN * peak) return null;
  const edge = (step: 1 | -1): number => {
    let k = top;
    while (k + step >= 0 && k + step < 31 && sign * heights[k + step]! > peak / 2) k += step;
    const [a, b] = [sign * heights[k]!, sign * (heights[k + step] ?? 0)];
    return k + step * (a > b ? Math.min(1, (a - peak / 2) / (a - b)) : 0);
  };
  const full = (edge(1) - edge(-1)) * 0.5;
  const spreadPx = Math.hypot(blurPx, 0.8);
  const width = Math.sqrt(Math.max(0.25, full * full - (2.355 * spreadPx) ** 2));
  return { pixels, length, width, height: peak, sign };
}

function bilinear(level: Float32Array, side: number, x: number, y: number): number {
  const x0 = Math.max(0, Math.min(side - 2, Math.floor(x)));
  const y0 = Math.max(0, Math.min(side - 2, Math.floor(y)));
  const [fx, fy] = [x - x0, y - y0];
  const i = y0 * side + x0;
  return (
    (level[i]! * (1 - fx) + level[i + 1]! * fx) * (1 - fy) +
    (level[i + side]! * (1 - fx) + level[i + side + 1]! * fx) * fy
  );
}
