import { middleOf } from './quantile.ts';

/** Directions that are tried, over half a turn. */
export const WAYS = 18;

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
 * The weaker of the two halves of a short piece in each of 18 directions, less the mean beside it; 0 where the halves
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
  const reachAll = Math.ceil(Math.SQRT2 * Math.max(reach.arm, reach.beside)) + 3;
  const deep = eroded(inside, side, reachAll);
  const likely = likelyPixels(masked, inside, side);
  const plain = { level: masked, inside, side, likely, deep };
  const turned = {
    ...{ level: transposed(masked, side), inside: transposed(inside, side), side },
    ...{ likely: transposed(likely, side), deep: transposed(deep, side) },
  };
  const sheared = new Sheared(side);
  for (let w = 0; w < WAYS; w++) {
    const t = (w / WAYS) * Math.PI;
    const steep = Math.abs(Math.sin(t)) > Math.abs(Math.cos(t));
    const [square, slope] = steep ? [turned, 1 / Math.tan(t)] : [plain, Math.tan(t)];
    sheared.respond(square, slope, reach, (i, v) => {
      const at = steep ? (i % side) * side + Math.floor(i / side) : i;
      if (Math.abs(v) > Math.abs(value[at]!)) [value[at], way[at]] = [v, w];
    });
  }
  return { side, value, way };
}

/** Every so many pixels tell the noise of a direction. */
const SAMPLED = 7;
/** The mean of nine pixels, in spreads of it, that a pixel on a line has at least. */
const LEAST_MEAN = 0.8;

/** Pixels whose own neighbourhood stands out a little; the others are on no line that is looked for. */
function likelyPixels(level: Float32Array, inside: Uint8Array, side: number): Uint8Array {
  const rows = new Float32Array(level.length);
  for (let i = 1; i < level.length - 1; i++) rows[i] = level[i - 1]! + level[i]! + level[i + 1]!;
  const mean = new Float32Array(level.length);
  for (let i = side; i < level.length - side; i++)
    mean[i] = Math.abs(rows[i - side]! + rows[i]! + rows[i + side]!);
  const some = new Float32Array(Math.ceil(level.length / 4));
  let n = 0;
  for (let i = 0; i < level.length; i += 4) if (inside[i]) some[n++] = mean[i]!;
  const least = LEAST_MEAN * 1.4826 * middleOf(some.subarray(0, n));
  const likely = new Uint8Array(level.length);
  for (let i = 0; i < level.length; i++) likely[i] = mean[i]! > least ? 1 : 0;
  return likely;
}

/** What lies inside with everything within `reach` rows and columns of it. */
function eroded(inside: Uint8Array, side: number, reach: number): Uint8Array {
  const along = (from: Uint8Array, step: number, line: number): Uint8Array => {
    const out = new Uint8Array(from.length);
    for (let k = 0; k < side; k++) {
      let run = 0;
      for (let j = 0; j < side; j++) {
        run = from[k * line + j * step] ? run + 1 : 0;
        if (run > 2 * reach) out[k * line + (j - reach) * step] = 1;
      }
    }
    return out;
  };
  return along(along(inside, 1, side), side, 1);
}

interface Square {
  /** Where a line may be, and where everything that is summed lies inside. */
  readonly likely: Uint8Array;
  readonly deep: Uint8Array;
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

  /** Tells the response of each likely pixel along rows that fall by `slope` a column, in spreads of one half by chance. */
  respond(square: Square, slope: number, reach: LineReach, tell: (i: number, value: number) => void): void {
    const { side, wide, shift, sums } = this;
    const half = side >> 1;
    for (let x = 0; x < side; x++) shift[x] = Math.round((x - half) * slope);
    this.fill(square);
    const stretch = Math.hypot(1, slope);
    const along = Math.max(2, Math.round(reach.arm / stretch));
    const across = Math.max(2, Math.round(reach.beside * stretch));
    const lift = across * wide;
    const scale = 1 / this.noise(square, along, across);
    const [one, each] = [scale / along, scale / (2 * (2 * along + 1))];
    const { likely, deep, inside } = square;
    for (let y = across; y < side - across; y++) {
      for (let x = along; x < side - along; x++) {
        const i = y * side + x;
        if (likely[i] === 0 || inside[i] === 0) continue;
        const at = (y - shift[x]! + half) * wide + x;
        if (deep[i] === 0) {
          const v = this.weaker(at, along, lift);
          if (v !== 0) tell(i, v * scale);
          continue;
        }
        // Everything that is summed lies inside: nothing has to be counted.
        const start = at - along;
        const end = at + along + 1;
        const around = sums[end + lift]! - sums[start + lift]! + sums[end - lift]! - sums[start - lift]!;
        const base = around * each;
        const p = (sums[at]! - sums[start]!) * one - base;
        const q = (sums[end]! - sums[at + 1]!) * one - base;
        if (p > 0 && q > 0) tell(i, p < q ? p : q);
        else if (p < 0 && q < 0) tell(i, p > q ? p : q);
      }
    }
  }

  /** The weaker of the two halves where not all lies inside; 0 where they differ in sign or hardly any of one does. */
  private weaker(at: number, along: number, lift: number): number {
    const { sums, counts } = this;
    const [start, end] = [at - along, at + along + 1];
    const c1 = counts[at]! - counts[start]!;
    const c2 = counts[end]! - counts[at + 1]!;
    if (2 * c1 < along || 2 * c2 < along) return 0;
    const around = sums[end + lift]! - sums[start + lift]! + sums[end - lift]! - sums[start - lift]!;
    const c = counts[end + lift]! - counts[start + lift]! + counts[end - lift]! - counts[start - lift]!;
    const base = c > 0 ? around / c : 0;
    const p = (sums[at]! - sums[start]!) / c1 - base;
    const q = (sums[end]! - sums[at + 1]!) / c2 - base;
    if (p * q <= 0) return 0;
    return Math.abs(p) < Math.abs(q) ? p : q;
  }

  /** Spread of one half by chance, over a sample of the pixels. */
  private noise({ deep }: Square, along: number, across: number): number {
    const { side, wide, shift, sums } = this;
    const half = side >> 1;
    const lift = across * wide;
    const halves = new Float32Array(Math.ceil(deep.length / SAMPLED));
    let n = 0;
    for (let i = 0; i < deep.length; i += SAMPLED) {
      if (deep[i] === 0) continue;
      const [y, x] = [Math.floor(i / side), i % side];
      const at = (y - shift[x]! + half) * wide + x;
      const [start, end] = [at - along, at + along + 1];
      const around = sums[end + lift]! - sums[start + lift]! + sums[end - lift]! - sums[start - lift]!;
      halves[n++] = Math.abs((sums[at]! - sums[start]!) / along - around / (2 * (2 * along + 1)));
    }
    return Math.max(1e-3, 1.4826 * middleOf(halves.subarray(0, n)));
  }

  private fill({ level, inside }: Square): void {
    const { side, wide, shift, sums, counts } = this;
    const half = side >> 1;
    // Rows of which some part lies in the square.
    const [a, b] = [shift[0]!, shift[side - 1]!];
    const first = Math.max(0, half - Math.max(a, b));
    const last = Math.min(2 * side, side + half - Math.min(a, b) + 1);
    for (let k = first; k < last; k++) {
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
