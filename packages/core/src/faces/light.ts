import type { Circle } from './enclosing-circle.ts';
import type { GreyImage } from './image.ts';
import { middleOf } from './quantile.ts';
import { solve } from './solve.ts';

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
const MOST_SAMPLES = 16_000;

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
  const samples = sampleRing(image, circle, from, to);
  const count = ((degree + 1) * (degree + 2)) / 2;
  if (samples.length < 40 * count) return null;
  const row = new Float64Array(count);
  const sizes = new Float32Array(samples.length);
  let weights: readonly number[] = [middleOf(Float32Array.from(samples, (s) => s.level))];
  const offOf = ({ u, v, level }: Sample): number => {
    terms(row, u, v, degree);
    let off = level;
    for (let k = 0; k < weights.length; k++) off -= weights[k]! * row[k]!;
    return off;
  };
  for (const { most, cuts } of ROUNDS) {
    samples.forEach((s, i) => (sizes[i] = Math.abs(offOf(s))));
    const cut = cuts * 1.4826 * Math.max(0.3, middleOf(sizes.slice()));
    const n = Math.min(count, ((most + 1) * (most + 2)) / 2);
    const a = Array.from({ length: n }, () => new Float64Array(n));
    const b = new Float64Array(n);
    samples.forEach((s, i) => {
      if (sizes[i]! > cut) return;
      terms(row, s.u, s.v, degree);
      for (let k = 0; k < n; k++) {
        b[k]! += row[k]! * s.level;
        for (let l = 0; l < n; l++) a[k]![l]! += row[k]! * row[l]!;
      }
    });
    const solved = solve(a, b);
    if (!solved) return null;
    weights = Array.from(solved);
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
  for (let x = 0; x < out.length; x++) {
    const u = (left + x - circle.x) / circle.r;
    let sum = powers[degree]!;
    for (let d = degree - 1; d >= 0; d--) sum = sum * u + powers[d]!;
    out[x] = sum;
  }
}

function terms(row: Float64Array, u: number, v: number, degree: number): void {
  let k = 0;
  for (let d = 0; d <= degree; d++) for (let j = 0; j <= d; j++) row[k++] = u ** (d - j) * v ** j;
}

interface Sample {
  readonly u: number;
  readonly v: number;
  readonly level: number;
}

function sampleRing(
  { width, height, data }: GreyImage,
  { x: cx, y: cy, r }: Circle,
  from: number,
  to: number,
): Sample[] {
  const step = Math.max(1, Math.round(Math.sqrt((Math.PI * (to * to - from * from) * r * r) / MOST_SAMPLES)));
  const samples: Sample[] = [];
  for (let y = Math.max(0, Math.ceil(cy - to * r)); y < Math.min(height, cy + to * r); y += step) {
    for (let x = Math.max(0, Math.ceil(cx - to * r)); x < Math.min(width, cx + to * r); x += step) {
      const [u, v] = [(x - cx) / r, (y - cy) / r];
      const d = u * u + v * v;
      if (d >= from * from && d <= to * to) samples.push({ u, v, level: data[y * width + x]! });
    }
  }
  return samples;
}
