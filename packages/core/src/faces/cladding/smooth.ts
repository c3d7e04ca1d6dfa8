import type { FaceSettings } from '../settings.ts';
import type { FlatFace } from './flat-face.ts';
import { middleOf } from '../pixels/quantile.ts';
import { ringsOf, ringsRound } from '../pixels/rings.ts';

/** Beyond so many standard deviations lies less than half a percent of a Gaussian. */
const REACH = 2.8;

/**
 * Separable Gaussian of a square picture, edges repeated. `sigma` in pixels. With `spans` (two columns a row) only what
 * lies between them is worked out, and the rest taken and left as 0.
 */
export function smooth(level: Float32Array, side: number, sigma: number, spans?: Int16Array): Float32Array {
  const reach = Math.max(1, Math.ceil(REACH * sigma));
  const half = Float32Array.from({ length: reach + 1 }, (_, i) => Math.exp(-(i * i) / (2 * sigma * sigma)));
  const total = half.reduce((a, b) => a + 2 * b, 0) - half[0]!;
  for (let k = 0; k <= reach; k++) half[k]! /= total;
  if (between.length < level.length) between = new Float32Array(level.length);
  const across = between.subarray(0, level.length).fill(0);
  const padded = new Float32Array(side + 2 * reach);
  for (let y = 0; y < side; y++) {
    const row = y * side;
    const from = Math.max(0, (spans ? spans[2 * y]! : 0) - reach);
    const to = Math.min(side, (spans ? spans[2 * y + 1]! : side) + reach);
    padded.fill(level[row]!, 0, reach);
    padded.set(level.subarray(row, row + side), reach);
    padded.fill(level[row + side - 1]!, side + reach);
    weigh(padded, half, across, row, from, to);
  }
  const out = new Float32Array(level.length);
  for (let y = 0; y < side; y++) {
    weighDown(across, half, out, y, side, spans ? spans[2 * y]! : 0, spans ? spans[2 * y + 1]! : side);
  }
  return out;
}

/** What lies between the two passes: the same memory for every picture, as large as the largest. */
let between = new Float32Array(0);

/** One row of the result from the rows above and below it, edges repeated. */
function weighDown(
  across: Float32Array,
  half: Float32Array,
  out: Float32Array,
  y: number,
  side: number,
  from: number,
  end: number,
): void {
  const reach = half.length - 1;
  const to = y * side;
  if (reach === 2) {
    const a = half[0]!;
    const b = half[1]!;
    const c = half[2]!;
    const b1 = rowBy(y, -1, side);
    const b2 = rowBy(y, 1, side);
    const c1 = rowBy(y, -2, side);
    const c2 = rowBy(y, 2, side);
    for (let x = from; x < end; x++) {
      out[to + x] =
        a * across[to + x]! +
        b * (across[b1 + x]! + across[b2 + x]!) +
        c * (across[c1 + x]! + across[c2 + x]!);
    }
    return;
  }
  if (reach === 3) {
    const a = half[0]!;
    const b = half[1]!;
    const c = half[2]!;
    const d = half[3]!;
    const b1 = rowBy(y, -1, side);
    const b2 = rowBy(y, 1, side);
    const c1 = rowBy(y, -2, side);
    const c2 = rowBy(y, 2, side);
    const d1 = rowBy(y, -3, side);
    const d2 = rowBy(y, 3, side);
    for (let x = from; x < end; x++) {
      out[to + x] =
        a * across[to + x]! +
        b * (across[b1 + x]! + across[b2 + x]!) +
        c * (across[c1 + x]! + across[c2 + x]!) +
        d * (across[d1 + x]! + across[d2 + x]!);
    }
    return;
  }
  for (let x = from; x < end; x++) out[to + x] = half[0]! * across[to + x]!;
  for (let k = 1; k <= reach; k++) {
    const above = rowBy(y, -k, side);
    const below = rowBy(y, k, side);
    const h = half[k]!;
    for (let x = from; x < end; x++) out[to + x]! += h * (across[above + x]! + across[below + x]!);
  }
}

/** Where the row `dy` below begins, the last where there is none. */
const rowBy = (y: number, dy: number, side: number): number => Math.max(0, Math.min(side - 1, y + dy)) * side;

/** One row: what lies at equal distances has one weight. */
function weigh(
  padded: Float32Array,
  half: Float32Array,
  out: Float32Array,
  row: number,
  from: number,
  end: number,
): void {
  const reach = half.length - 1;
  if (reach === 2) {
    const a = half[0]!;
    const b = half[1]!;
    const c = half[2]!;
    for (let x = from; x < end; x++) {
      out[row + x] =
        a * padded[x + 2]! + b * (padded[x + 1]! + padded[x + 3]!) + c * (padded[x]! + padded[x + 4]!);
    }
    return;
  }
  if (reach === 3) {
    const a = half[0]!;
    const b = half[1]!;
    const c = half[2]!;
    const d = half[3]!;
    for (let x = from; x < end; x++) {
      out[row + x] =
        a * padded[x + 3]! +
        b * (padded[x + 2]! + padded[x + 4]!) +
        c * (padded[x + 1]! + padded[x + 5]!) +
        d * (padded[x]! + padded[x + 6]!);
    }
    return;
  }
  for (let x = from; x < end; x++) {
    const at = x + reach;
    let sum = half[0]! * padded[at]!;
    for (let k = 1; k <= reach; k++) sum += half[k]! * (padded[at - k]! + padded[at + k]!);
    out[row + x] = sum;
  }
}

/** Robust spread of what lies inside: 1.4826 times the median size. Never 0, so that a flat picture divides nothing. */
export function spreadOf(level: Float32Array, inside: Uint8Array): number {
  // A sample of them tells it to a percent.
  const step = Math.max(1, Math.floor(level.length / MOST_SAMPLES));
  const sizes = new Float32Array(Math.ceil(level.length / step));
  let n = 0;
  for (let i = 0; i < level.length; i += step) if (inside[i]) sizes[n++] = Math.abs(level[i]!);
  return Math.max(1e-3, 1.4826 * middleOf(sizes.subarray(0, n)));
}

const MOST_SAMPLES = 15_000;
/** Of a square about so many pixels tell its noise. */
const TELLING = 24_000;

/**
 * The spread by the distance from the centre in whole pixels: that of all, or of the ring where it is more, as round
 * the core and at the rim, whose edges are never taken out without a trace.
 */
export function spreadByDistance(
  level: Float32Array,
  { distance, inside }: Pick<FlatFace, 'distance' | 'inside'>,
  settings: FaceSettings,
): Float32Array {
  const overall = spreadOf(level, inside);
  const rings = ringsOf(level, distance, inside, 1, Math.max(1, Math.round(level.length / TELLING)));
  for (const ring of rings) for (let i = 0; i < ring.length; i++) ring[i] = Math.abs(ring[i]!);
  const spreads = Float32Array.from({ length: rings.length + 2 }, () => overall);
  for (let d = settings.noise.nearCentrePx; d < spreads.length; d++) {
    // Far out a ring has enough of its own, and the rim's noise is not that of the glass beside it.
    const values = ringsRound(rings, d, 5, settings.noise.leastOfRing);
    spreads[d] = Math.max(overall, 1.4826 * middleOf(values));
  }
  return spreads;
}
