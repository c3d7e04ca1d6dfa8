import { middleOf } from './quantile.ts';

/** Directions that are tried, over half a turn. */
export const WAYS = 24;

/** How strongly each pixel of a square lies on a line, signed, in spreads of chance, and the direction that says so. */
export interface LineResponse {
  readonly side: number;
  readonly value: Float32Array;
  readonly way: Uint8Array;
}

/** Reach of each half along a line, and how far beside it the surroundings are taken; pixels. */
export interface LineReach {
  readonly arm: number;
  readonly beside: number;
}

/**
 * The weaker of the two halves of a short piece in each of 24 directions, less the mean beside it; 0 where the halves
 * differ in sign, so that a spot or the end of something does not answer as a line. Sums run along sheared rows, so that a
 * direction costs the same for any reach. Only what is `inside` is summed.
 */
export function lineResponse(
  level: Float32Array,
  inside: Uint8Array,
  side: number,
  reach: LineReach,
): LineResponse {
  const value = new Float32Array(level.length);
  const way = new Uint8Array(level.length);
  const masked = level.map((v, i) => (inside[i] ? v : 0));
  const plain = { level: masked, inside, side };
  const turned = { level: transposed(masked, side), inside: transposed(inside, side), side };
  const one = new Float32Array(level.length);
  const sheared = new Sheared(side);
  for (let w = 0; w < WAYS; w++) {
    const t = (w / WAYS) * Math.PI;
    const steep = Math.abs(Math.sin(t)) > Math.abs(Math.cos(t));
    const noise = sheared.respond(steep ? turned : plain, steep ? 1 / Math.tan(t) : Math.tan(t), reach, one);
    for (let y = 0; y < side; y++) {
      for (let x = 0; x < side; x++) {
        const i = y * side + x;
        const v = one[steep ? x * side + y : i]! / noise;
        if (Math.abs(v) > Math.abs(value[i]!)) [value[i], way[i]] = [v, w];
      }
    }
  }
  return { side, value, way };
}

interface Square {
  readonly level: Float32Array;
  readonly inside: Uint8Array;
  readonly side: number;
}

function transposed<T extends Float32Array | Uint8Array>(from: T, side: number): T {
  const out = from.slice() as T;
  for (let y = 0; y < side; y++) for (let x = 0; x < side; x++) out[x * side + y] = from[y * side + x]!;
  return out;
}

/** Running sums along rows that slope: the sum of any piece of a line is then one difference. */
class Sheared {
  private readonly sums: Float32Array;
  private readonly counts: Uint16Array;
  private readonly shift: Int32Array;
  private readonly wide: number;
  constructor(private readonly side: number) {
    this.wide = side + 1;
    this.sums = new Float32Array(2 * side * this.wide);
    this.counts = new Uint16Array(2 * side * this.wide);
    this.shift = new Int32Array(side);
  }

  /** Writes the response along rows that fall by `slope` a column to `out`, and returns the spread of one half by chance. */
  respond(square: Square, slope: number, { arm, beside }: LineReach, out: Float32Array): number {
    const { side, wide, shift, sums, counts } = this;
    const half = side >> 1;
    for (let x = 0; x < side; x++) shift[x] = Math.round((x - half) * slope);
    this.fill(square);
    const stretch = Math.hypot(1, slope);
    const along = Math.max(2, Math.round(arm / stretch));
    const across = Math.max(2, Math.round(beside * stretch));
    const halves = new Float32Array(Math.ceil(out.length / 5));
    let n = 0;
    out.fill(0);
    for (let y = across; y < side - across; y++) {
      for (let x = along; x < side - along; x++) {
        const i = y * side + x;
        if (!square.inside[i]) continue;
        const at = (y - shift[x]! + half) * wide + x;
        const [start, end] = [at - along, at + along + 1];
        const c1 = counts[at]! - counts[start]!;
        const c2 = counts[end]! - counts[at + 1]!;
        if (2 * c1 < along || 2 * c2 < along) continue;
        const [up, down] = [across * wide, -across * wide];
        const around = sums[end + up]! - sums[start + up]! + sums[end + down]! - sums[start + down]!;
        const c = counts[end + up]! - counts[start + up]! + counts[end + down]! - counts[start + down]!;
        const base = c > 0 ? around / c : 0;
        const p = (sums[at]! - sums[start]!) / c1 - base;
        const q = (sums[end]! - sums[at + 1]!) / c2 - base;
        if (p * q > 0) out[i] = Math.abs(p) < Math.abs(q) ? p : q;
        if (i % 5 === 0) halves[n++] = Math.abs(p);
      }
    }
    return Math.max(1e-3, 1.4826 * middleOf(halves.subarray(0, n)));
  }

  private fill({ level, inside }: Square): void {
    const { side, wide, shift, sums, counts } = this;
    const half = side >> 1;
    for (let k = 0; k < 2 * side; k++) {
      let [sum, count] = [0, 0];
      const row = k * wide;
      sums[row] = 0;
      counts[row] = 0;
      for (let x = 0; x < side; x++) {
        const y = k - half + shift[x]!;
        if (y >= 0 && y < side) {
          const i = y * side + x;
          sum += level[i]!;
          count += inside[i]!;
        }
        sums[row + x + 1] = sum;
        counts[row + x + 1] = count;
      }
    }
  }
}
