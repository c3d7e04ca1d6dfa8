import { normal, type Rng } from './rng.ts';

/**
 * Spread by a Gaussian along the rows and then down the columns; beyond the border a picture goes on as it ends. `planes` values
 * stand for each pixel, one beside the other.
 */
export function gaussian(
  from: Float32Array,
  width: number,
  height: number,
  sigma: number,
  planes = 1,
): Float32Array {
  const reach = Math.max(1, Math.ceil(3 * sigma));
  const kernel = Float64Array.from({ length: 2 * reach + 1 }, (_, i) =>
    Math.exp(-((i - reach) ** 2) / (2 * sigma * sigma)),
  );
  const total = kernel.reduce((a, b) => a + b, 0);
  for (let k = 0; k < kernel.length; k++) kernel[k]! /= total;
  return weighDown(weighAlong(from, width, height, kernel, planes), planes * width, height, kernel);
}

/** Each row weighed by a kernel along it. */
function weighAlong(
  from: Float32Array,
  width: number,
  height: number,
  kernel: Float64Array,
  planes: number,
): Float32Array {
  const reach = (kernel.length - 1) / 2;
  const middle = kernel[reach]!;
  const edge = planes * reach;
  const long = planes * width;
  const out = new Float32Array(from.length);
  const row = new Float64Array(long + 2 * edge);
  for (let start = 0; start < from.length; start += long) {
    row.set(from.subarray(start, start + long), edge);
    for (let i = 0; i < edge; i++) {
      row[i] = row[edge + (i % planes)]!;
      row[edge + long + i] = row[edge + long - planes + (i % planes)]!;
    }
    for (let x = 0; x < long; x++) {
      let sum = middle * row[x + edge]!;
      // A kernel is the same to both sides: what it weighs alike is added first.
      for (let k = 0, i = x, j = x + 2 * edge; i < j; k++, i += planes, j -= planes)
        sum += kernel[k]! * (row[i]! + row[j]!);
      out[start + x] = sum;
    }
  }
  return out;
}

/** Each column weighed by a kernel down it, a row of the picture at a time. */
function weighDown(from: Float32Array, long: number, height: number, kernel: Float64Array): Float32Array {
  const reach = (kernel.length - 1) / 2;
  const out = new Float32Array(from.length);
  const sums = new Float64Array(long);
  for (let y = 0; y < height; y++) {
    const own = y * long;
    for (let x = 0; x < long; x++) sums[x] = kernel[reach]! * from[own + x]!;
    for (let k = 0; k < reach; k++) {
      const above = Math.max(0, y + k - reach) * long;
      const below = Math.min(height - 1, y - k + reach) * long;
      addRows(sums, from, above, below, kernel[k]!);
    }
    out.set(sums, own);
  }
  return out;
}
function addRows(sums: Float64Array, from: Float32Array, above: number, below: number, weight: number): void {
  for (let x = 0; x < sums.length; x++) sums[x]! += weight * (from[above + x]! + from[below + x]!);
}

/** A level as a camera keeps it, 0 to 255. A byte array cuts the rest off: so it is rounded. */
export const inByte = (level: number): number => Math.max(0, Math.min(255, level + 0.5));

/** What a sensor with the same noise everywhere makes of levels. */
export function inBytes(level: Float32Array, noise: number, rng: Rng): Uint8Array {
  const data = new Uint8Array(level.length);
  for (let i = 0; i < data.length; i++) data[i] = inByte(level[i]! + noise * normal(rng));
  return data;
}
