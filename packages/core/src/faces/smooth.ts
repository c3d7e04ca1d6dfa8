import type { FlatFace } from './flatten.ts';

/** Separable Gaussian of a square picture, edges repeated. `sigma` in pixels. */
export function smooth(level: Float32Array, side: number, sigma: number): Float32Array {
  const reach = Math.max(1, Math.ceil(3 * sigma));
  const kernel = Float32Array.from({ length: 2 * reach + 1 }, (_, i) =>
    Math.exp(-((i - reach) ** 2) / (2 * sigma * sigma)),
  );
  const total = kernel.reduce((a, b) => a + b, 0);
  for (let k = 0; k < kernel.length; k++) kernel[k]! /= total;
  const across = new Float32Array(level.length);
  const out = new Float32Array(level.length);
  for (let y = 0; y < side; y++) {
    for (let x = 0; x < side; x++) {
      let sum = 0;
      for (let k = -reach; k <= reach; k++) {
        const xx = x + k < 0 ? 0 : x + k >= side ? side - 1 : x + k;
        sum += kernel[k + reach]! * level[y * side + xx]!;
      }
      across[y * side + x] = sum;
    }
  }
  for (let y = 0; y < side; y++) {
    for (let k = -reach; k <= reach; k++) {
      const yy = y + k < 0 ? 0 : y + k >= side ? side - 1 : y + k;
      const weight = kernel[k + reach]!;
      for (let x = 0; x < side; x++) out[y * side + x]! += weight * across[yy * side + x]!;
    }
  }
  return out;
}

/** Robust spread of what lies inside: 1.4826 times the median size. Never 0, so that a flat picture divides nothing. */
export function spreadOf(level: Float32Array, inside: Uint8Array): number {
  const sizes = new Float32Array(level.length);
  let n = 0;
  for (let i = 0; i < level.length; i++) if (inside[i]) sizes[n++] = Math.abs(level[i]!);
  const sorted = sizes.subarray(0, n).sort();
  return Math.max(1e-3, 1.4826 * (sorted[Math.floor(n / 2)] ?? 0));
}

/** Pixels that a ring needs for its own spread. */
const RING_LEAST = 80;

/**
 * The spread by the distance from the centre in whole pixels: that of all, or of the ring where it is more, as round
 * the core, whose edge is never taken out without a trace.
 */
export function spreadByDistance(level: Float32Array, { distance, inside }: FlatFace): Float32Array {
  const overall = spreadOf(level, inside);
  const rings: number[][] = [];
  for (let i = 0; i < level.length; i++) {
    if (inside[i]) (rings[Math.floor(distance[i]!)] ??= []).push(Math.abs(level[i]!));
  }
  return Float32Array.from({ length: rings.length + 2 }, (_, d) => {
    let values: number[] = [];
    for (let reach = 1; values.length < RING_LEAST && reach < 6; reach++) {
      values = [];
      for (let k = d - reach; k <= d + reach; k++) values.push(...(rings[k] ?? []));
    }
    values.sort((a, b) => a - b);
    return Math.max(overall, 1.4826 * (values[Math.floor(values.length / 2)] ?? 0));
  });
}
