import type { FaceSettings } from '../settings.ts';
import { middleOf } from '../pixels/quantile.ts';

/** Directions that are tried, over half a turn. */
export const DIRECTIONS = 18;

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
  settings: FaceSettings,
): LineResponse {
  const masked = level.slice();
  for (let i = 0; i < masked.length; i++) if (inside[i] === 0) masked[i] = 0;
  const reachAll = Math.ceil(Math.SQRT2 * Math.max(reach.arm, reach.beside)) + 3;
  const deep = eroded(inside, side, reachAll);
  const likely = likelyPixels(masked, inside, side, settings);
  for (let i = 0; i < likely.length; i++) likely[i]! &= inside[i]!;
  const plain = squareOf(masked, inside, likely, deep, side);
  const turned = squareOf(
    transposed(masked, side),
    transposed(inside, side),
    transposed(likely, side),
    transposed(deep, side),
    side,
  );
  const sheared = new Sheared(side);
  for (let w = 0; w < DIRECTIONS; w++) {
    const t = (w / DIRECTIONS) * Math.PI;
    const steep = Math.abs(Math.sin(t)) > Math.abs(Math.cos(t));
    if (steep) sheared.respond(turned, 1 / Math.tan(t), reach, w);
    else sheared.respond(plain, Math.tan(t), reach, w);
  }
  const { value, way } = plain;
  for (let c = 0; c < turned.at.length; c++) {
    const from = turned.at[c]!;
    const to = turned.columns[c]! * side + turned.rows[c]!;
    if (Math.abs(turned.value[from]!) <= Math.abs(value[to]!)) continue;
    value[to] = turned.value[from]!;
    way[to] = turned.way[from]!;
  }
  return { side, value, way };
}

/** Every so many pixels tell the noise of a direction. */
const SAMPLED = 13;

/** Pixels whose own neighbourhood stands out a little; the others are on no line that is looked for. */
function likelyPixels(
  level: Float32Array,
  inside: Uint8Array,
  side: number,
  settings: FaceSettings,
): Uint8Array {
  const rows = new Float32Array(level.length);
  for (let i = 1; i < level.length - 1; i++) rows[i] = level[i - 1]! + level[i]! + level[i + 1]!;
  const mean = new Float32Array(level.length);
  for (let i = side; i < level.length - side; i++)
    mean[i] = Math.abs(rows[i - side]! + rows[i]! + rows[i + side]!);
  const some = new Float32Array(Math.ceil(level.length / 4));
  let n = 0;
  for (let i = 0; i < level.length; i += 4) if (inside[i]) some[n++] = mean[i]!;
  const least = settings.crests.leastMean * 1.4826 * middleOf(some.subarray(0, n));
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
  readonly level: Float32Array;
  readonly inside: Uint8Array;
  readonly side: number;
  /** Where everything that is summed lies inside. */
  readonly deep: Uint8Array;
  /** Where a line may be: places, and their rows and columns. */
  readonly at: Int32Array;
  readonly rows: Uint16Array;
  readonly columns: Uint16Array;
  /** The strongest response so far and its direction. */
  readonly value: Float32Array;
  readonly way: Uint8Array;
}

function squareOf(
  level: Float32Array,
  inside: Uint8Array,
  likely: Uint8Array,
  deep: Uint8Array,
  side: number,
): Square {
  let n = 0;
  for (let i = 0; i < likely.length; i++) n += likely[i]!;
  const at = new Int32Array(n);
  const rows = new Uint16Array(n);
  const columns = new Uint16Array(n);
  for (let i = 0, c = 0; i < likely.length; i++) {
    if (likely[i] === 0) continue;
    at[c] = i;
    rows[c] = Math.floor(i / side);
    columns[c++] = i % side;
  }
  const value = new Float32Array(level.length);
  const way = new Uint8Array(level.length);
  return { level, inside, side, deep, at, rows, columns, value, way };
}

function transposed<T extends Float32Array | Uint8Array>(from: T, side: number): T {
  const out = from.slice() as T;
  for (let y = 0; y < side; y++) for (let x = 0; x < side; x++) out[x * side + y] = from[y * side + x]!;
  return out;
}

/** Room for running sums: the same for every square, as large as the largest; each direction fills it anew. */
let room = { sums: new Float32Array(0), counts: new Uint16Array(0) };

/** Running sums along rows that slope: the sum of any piece of a line is then one difference. */
class Sheared {
  private readonly sums: Float32Array;
  private readonly counts: Uint16Array;
  private readonly shift: Int32Array;
  /** Of each column: from the place in a sheared row to that in the square, and from the row's number in the square to the place. */
  private readonly fromRow: Int32Array;
  private readonly intoRow: Int32Array;
  private readonly wide: number;
  constructor(private readonly side: number) {
    this.wide = side + 1;
    const places = 2 * side * this.wide;
    if (room.sums.length < places) room = { sums: new Float32Array(places), counts: new Uint16Array(places) };
    this.sums = room.sums;
    this.counts = room.counts;
    this.shift = new Int32Array(side);
    this.fromRow = new Int32Array(side);
    this.intoRow = new Int32Array(side);
  }

  /**
   * Keeps the response of each likely pixel along rows that fall by `slope` a column where it is the strongest so far, in
   * spreads of one half by chance.
   */
  respond(square: Square, slope: number, reach: LineReach, w: number): void {
    const { side, wide, shift, sums, fromRow, intoRow } = this;
    const half = side >> 1;
    for (let x = 0; x < side; x++) {
      shift[x] = Math.round((x - half) * slope);
      fromRow[x] = (shift[x]! - half) * side + x;
      intoRow[x] = (half - shift[x]!) * wide + x;
    }
    this.fill(square, slope);
    const stretch = Math.hypot(1, slope);
    const along = Math.max(2, Math.round(reach.arm / stretch));
    const across = Math.max(2, Math.round(reach.beside * stretch));
    const lift = across * wide;
    const scale = 1 / this.noise(square, along, across);
    const one = scale / along;
    const each = scale / (2 * (2 * along + 1));
    const { deep, at: places, rows, columns, value, way } = square;
    for (let c = 0; c < places.length; c++) {
      const i = places[c]!;
      const x = columns[c]!;
      const y = rows[c]!;
      if (x < along || x >= side - along || y < across || y >= side - across) continue;
      const at = y * wide + intoRow[x]!;
      let v = 0;
      if (deep[i] === 0) v = this.weaker(at, along, lift) * scale;
      else {
        // Everything that is summed lies inside: nothing has to be counted.
        const start = at - along;
        const end = at + along + 1;
        const around = sums[end + lift]! - sums[start + lift]! + sums[end - lift]! - sums[start - lift]!;
        const base = around * each;
        const p = (sums[at]! - sums[start]!) * one - base;
        const q = (sums[end]! - sums[at + 1]!) * one - base;
        if (p > 0 && q > 0) v = p < q ? p : q;
        else if (p < 0 && q < 0) v = p > q ? p : q;
      }
      if (Math.abs(v) <= Math.abs(value[i]!)) continue;
      value[i] = v;
      way[i] = w;
    }
  }

  /** The weaker of the two halves where not all lies inside; 0 where they differ in sign or hardly any of one does. */
  private weaker(at: number, along: number, lift: number): number {
    const { sums, counts } = this;
    const start = at - along;
    const end = at + along + 1;
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
    const { side, wide, intoRow, sums } = this;
    const lift = across * wide;
    const halves = new Float32Array(Math.ceil(deep.length / SAMPLED));
    let n = 0;
    for (let i = 0; i < deep.length; i += SAMPLED) {
      if (deep[i] === 0) continue;
      const y = Math.floor(i / side);
      const x = i % side;
      const at = y * wide + intoRow[x]!;
      const start = at - along;
      const end = at + along + 1;
      const around = sums[end + lift]! - sums[start + lift]! + sums[end - lift]! - sums[start - lift]!;
      halves[n++] = Math.abs((sums[at]! - sums[start]!) / along - around / (2 * (2 * along + 1)));
    }
    return Math.max(1e-3, 1.4826 * middleOf(halves.subarray(0, n)));
  }

  private fill({ level, inside }: Square, slope: number): void {
    const { side, wide, shift, fromRow, sums, counts } = this;
    const half = side >> 1;
    const rising = slope >= 0;
    // The columns at which a row lies in the square: one stretch, since rows rise or fall all the way.
    let [left, right] = rising ? [side, side] : [0, 0];
    for (let k = 0; k < 2 * side; k++) {
      const least = half - k;
      const under = side + half - k;
      if (rising) {
        while (left > 0 && shift[left - 1]! >= least) left--;
        while (right > 0 && shift[right - 1]! >= under) right--;
      } else {
        while (right < side && shift[right]! >= least) right++;
        while (left < side && shift[left]! >= under) left++;
      }
      const row = k * wide;
      sums.fill(0, row, row + left + 1);
      counts.fill(0, row, row + left + 1);
      let sum = 0;
      let count = 0;
      for (let x = left, to = row + left + 1; x < right; x++, to++) {
        const i = k * side + fromRow[x]!;
        sum += level[i]!;
        count += inside[i]!;
        sums[to] = sum;
        counts[to] = count;
      }
      sums.fill(sum, row + right + 1, row + wide);
      counts.fill(count, row + right + 1, row + wide);
    }
  }
}
