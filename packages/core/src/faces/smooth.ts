import type { FlatFace } from './flatten.ts';
import { middleOf } from './quantile.ts';
import { joined, ringsOf } from './rings.ts';

/** Separable Gaussian of a square picture, edges repeated. `sigma` in pixels. */
export function smooth(level: Float32Array, side: number, sigma: number): Float32Array {
  const reach = Math.max(1, Math.ceil(3 * sigma));
  const kernel = Float32Array.from({ length: 2 * reach + 1 }, (_, i) =>
    Math.exp(-((i - reach) ** 2) / (2 * sigma * sigma)),
  );
  const total = kernel.reduce((a, b) => a + b, 0);
  for (let k = 0; k < kernel.length; k++) kernel[k]! /= total;
  const padded = new Float32Array(side + 2 * reach);
  const across = new Float32Array(level.length);
  for (let y = 0; y < side; y++) {
    const row = y * side;
    padded.fill(level[row]!, 0, reach);
    padded.set(level.subarray(row, row + side), reach);
    padded.fill(level[row + side - 1]!, side + reach);
    for (let x = 0; x < side; x++) {
      let sum = 0;
      for (let k = 0; k < kernel.length; k++) sum += kernel[k]! * padded[x + k]!;
      across[row + x] = sum;
    }
  }
  const out = new Float32Array(level.length);
  for (let y = 0; y < side; y++) {
    const to = y * side;
    for (let k = -reach; k <= reach; k++) {
      const from = Math.max(0, Math.min(side - 1, y + k)) * side;
      const weight = kernel[k + reach]!;
      for (let x = 0; x < side; x++) out[to + x]! += weight * across[from + x]!;
    }
  }
  return out;
}

/** Robust spread of what lies inside: 1.4826 times the median size. Never 0, so that a flat picture divides nothing. */
export function spreadOf(level: Float32Array, inside: Uint8Array): number {
  const sizes = new Float32Array(level.length);
  let n = 0;
  for (let i = 0; i < level.length; i++) if (inside[i]) sizes[n++] = Math.abs(level[i]!);
  return Math.max(1e-3, 1.4826 * middleOf(sizes.subarray(0, n)));
}

/** Pixels that a ring needs for its own spread. */
const RING_LEAST = 80;

/**
 * The spread by the distance from the centre in whole pixels: that of all, or of the ring where it is more, as round
 * the core and at the rim, whose edges are never taken out without a trace.
 */
export function spreadByDistance(
  level: Float32Array,
  { distance, inside }: Pick<FlatFace, 'distance' | 'inside'>,
): Float32Array {
  const overall = spreadOf(level, inside);
  const rings = ringsOf(level, distance, inside, 1).map((ring) => ring.map(Math.abs));
  const spreads = Float32Array.from({ length: rings.length + 2 }, () => overall);
  for (let d = 0; d < spreads.length; d++) {
    let values: Float32Array = rings[d] ?? new Float32Array(0);
    // Far out a ring has enough of its own, and the rim's noise is not that of the glass beside it.
    for (let reach = 1; values.length < RING_LEAST && reach < 6; reach++) {
      values = joined(rings.slice(Math.max(0, d - reach), d + reach + 1));
    }
    spreads[d] = Math.max(overall, 1.4826 * middleOf(values.slice()));
  }
  return spreads;
}
