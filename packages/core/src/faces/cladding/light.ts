import type { Circle } from '../pixels/enclosing-circle.ts';
import type { GreyImage } from '../pixels/image.ts';
import { middleOf } from '../pixels/quantile.ts';
import { solve } from '../pixels/solve.ts';

/** A polynomial over a picture, in radii from a centre: one coefficient a term, terms by rising degree. */
export interface Light {
  readonly circle: Circle;
  readonly degree: number;
  readonly weights: readonly number[];
}

/**
 * From the middle level over a plane to the whole polynomial, close at first: glass broken over a quarter of the ring would
 * bend a surface that was fitted to all of it.
 */
const ROUNDS = [
  { most: 1, cuts: 1.5 },
  { most: 1, cuts: 1.5 },
  { most: 2, cuts: 1.5 },
  { most: 2, cuts: 2 },
  { most: 9, cuts: 3 },
];
const MOST_SAMPLES = 1600;

/**
 * The light on a ring of a face, from `from` to `to` radii: a polynomial, fitted in rounds with what stands out more than
 * a few robust spreads left out. Levels of the picture. Null where too little of the ring lies in the picture.
 */
export function fitLight(
  image: GreyImage,
  circle: Circle,
  from: number,
  to: number,
  degree: number,
): Light | null {
  const count = ((degree + 1) * (degree + 2)) / 2;
  const { rows, levels } = sampleRing(image, circle, from, to, degree, count);
  const n = levels.length;
  if (n < 40 * count) return null;
  const off = new Float32Array(n);
  let weights: readonly number[] = [middleOf(Float32Array.from(levels))];
  for (const { most, cuts } of ROUNDS) {
    for (let i = 0; i < n; i++) {
      let sum = levels[i]!;
      for (let k = 0; k < weights.length; k++) sum -= weights[k]! * rows[i * count + k]!;
      off[i] = Math.abs(sum);
    }
    const cut = cuts * 1.4826 * Math.max(0.3, middleOf(off.slice()));
    const size = Math.min(count, ((most + 1) * (most + 2)) / 2);
    const a = Array.from({ length: size }, () => new Float64Array(size));
    const b = new Float64Array(size);
    for (let i = 0; i < n; i++) {
      if (off[i]! > cut) continue;
      const at = i * count;
      for (let k = 0; k < size; k++) {
        const v = rows[at + k]!;
        b[k]! += v * levels[i]!;
        const line = a[k]!;
        for (let l = 0; l <= k; l++) line[l]! += v * rows[at + l]!;
      }
    }
    for (let k = 0; k < size; k++) for (let l = k + 1; l < size; l++) a[k]![l] = a[l]![k]!;
    const solved = solve(a, b);
    if (!solved) return null;
    weights = solved;
  }
  while (weights.length < count) weights = [...weights, 0];
  return { circle, degree, weights };
}

/** The light along one row of the picture, from `left` on, written to `out`. */
export function lightOfRow(
  { circle, degree, weights }: Light,
  y: number,
  left: number,
  out: Float32Array,
): void {
  const v = (y - circle.y) / circle.r;
  // Within a row the terms of each power of u are one number.
  const powers = new Float64Array(degree + 1);
  let k = 0;
  for (let d = 0; d <= degree; d++) {
    for (let j = 0; j <= d; j++) powers[d - j]! += weights[k++]! * v ** j;
  }
  const step = 1 / circle.r;
  const first = (left - circle.x) * step;
  if (degree === 2) {
    const a = powers[2]!;
    const b = powers[1]!;
    const c = powers[0]!;
    for (let x = 0; x < out.length; x++) {
      const u = first + x * step;
      out[x] = (a * u + b) * u + c;
    }
    return;
  }
  for (let x = 0; x < out.length; x++) {
    const u = first + x * step;
    let sum = powers[degree]!;
    for (let d = degree - 1; d >= 0; d--) sum = sum * u + powers[d]!;
    out[x] = sum;
  }
}

/** 1, u, v, u^2, u v, v^2, ... to the degree, written from `at` on. */
function terms(rows: Float64Array, at: number, u: number, v: number, degree: number): void {
  let k = at;
  rows[k++] = 1;
  for (let d = 1, before = at; d <= degree; d++) {
    const first = k;
    for (let j = 0; j < d; j++) rows[k++] = rows[before + j]! * u;
    rows[k++] = rows[before + d - 1]! * v;
    before = first;
  }
}

/** Levels at places spread over the ring, and the terms of the polynomial there. */
function sampleRing(
  { width, height, data }: GreyImage,
  { x: cx, y: cy, r }: Circle,
  from: number,
  to: number,
  degree: number,
  count: number,
): { rows: Float64Array; levels: Float32Array } {
  const area = Math.PI * (to * to - from * from) * r * r;
  const step = Math.max(1, Math.round(Math.sqrt(area / MOST_SAMPLES)));
  const levels: number[] = [];
  const places: number[] = [];
  for (let y = Math.max(0, Math.ceil(cy - to * r)); y < Math.min(height, cy + to * r); y += step) {
    for (let x = Math.max(0, Math.ceil(cx - to * r)); x < Math.min(width, cx + to * r); x += step) {
      const u = (x - cx) / r;
      const v = (y - cy) / r;
      const d = u * u + v * v;
      if (d < from * from || d > to * to) continue;
      levels.push(data[y * width + x]!);
      places.push(u, v);
    }
  }
  const rows = new Float64Array(levels.length * count);
  for (let i = 0; i < levels.length; i++) terms(rows, i * count, places[2 * i]!, places[2 * i + 1]!, degree);
  return { rows, levels: Float32Array.from(levels) };
}
