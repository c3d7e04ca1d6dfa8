import { solve } from '../faces/pixels/solve.ts';
import { middleOf } from '../faces/pixels/quantile.ts';

/** A picture made small, in levels. */
export interface SmallPicture {
  readonly width: number;
  readonly height: number;
  readonly level: Float32Array;
}

/** The light behind the fiber: a surface of the second degree over the picture, and how much the picture differs from it where nothing lies. */
export interface Background {
  /** Level at a place of the small picture. */
  readonly at: (x: number, y: number) => number;
  /** Standard deviation round it, levels. */
  readonly spread: number;
}

const TERMS = 6;
const EXPECTILE_ROUNDS = 6;
const CLIP_ROUNDS = 4;
/** What lies above the light weighs so much more than what lies below it: a fiber is darker, and may cover half of the picture. */
const ABOVE = 12;
const CLIP = 3;
/** Every so many pixels of the small picture one is taken. */
const STEP = 5;

/** Fits the light behind a fiber by expectiles (Newey and Powell 1987), then without what differs from it. */
export function fitBackground({ width, height, level }: SmallPicture): Background {
  const places = Math.ceil((width - 1) / STEP) * Math.ceil((height - 1) / STEP);
  const us = new Float64Array(places);
  const vs = new Float64Array(places);
  const values = new Float64Array(places);
  let n = 0;
  for (let y = 1; y < height; y += STEP) {
    for (let x = 1; x < width; x += STEP) {
      us[n] = (2 * x) / width - 1;
      vs[n] = (2 * y) / height - 1;
      values[n++] = level[y * width + x]!;
    }
  }
  const rows: Rows = { us, vs, values, weights: new Float64Array(n).fill(1), n };
  const off = new Float32Array(n);
  let found: number[] = [values.subarray(0, n).reduce((a, b) => Math.max(a, b), 0), 0, 0, 0, 0, 0];
  let spread = 2;
  for (let round = 0; round < EXPECTILE_ROUNDS + CLIP_ROUNDS; round++) {
    const isClipped = round >= EXPECTILE_ROUNDS;
    let kept = 0;
    const near = CLIP * Math.max(spread, 4);
    for (let i = 0; i < n; i++) {
      const r = values[i]! - surfaceAt(found, us[i]!, vs[i]!);
      if (isClipped ? Math.abs(r) < near : r > 0) off[kept++] = Math.abs(r);
      rows.weights[i] = r;
    }
    if (isClipped) spread = Math.max(1, 1.4826 * middleOf(off.slice(0, kept)));
    else if (round === EXPECTILE_ROUNDS - 1) spread = Math.max(1.5, 1.4826 * middleOf(off.slice(0, kept)));
    const most = CLIP * spread;
    for (let i = 0; i < n; i++) {
      const r = rows.weights[i]!;
      rows.weights[i] = isClipped ? (Math.abs(r) < most ? 1 : 1e-4) : r > 0 ? ABOVE : 1;
    }
    found = weightedFit(rows) ?? found;
  }
  const at = (x: number, y: number): number => surfaceAt(found, (2 * x) / width - 1, (2 * y) / height - 1);
  return { at, spread };
}

const surfaceAt = (c: readonly number[], u: number, v: number): number =>
  c[0]! + u * (c[1]! + c[3]! * u + c[4]! * v) + v * (c[2]! + c[5]! * v);

interface Rows {
  readonly us: Float64Array;
  readonly vs: Float64Array;
  readonly values: Float64Array;
  readonly weights: Float64Array;
  readonly n: number;
}
function weightedFit({ us, vs, values, weights, n }: Rows): number[] | null {
  const a = Array.from({ length: TERMS }, () => new Float64Array(TERMS));
  const b = new Float64Array(TERMS);
  const t = new Float64Array(TERMS);
  for (let k = 0; k < n; k++) {
    const u = us[k]!;
    const v = vs[k]!;
    t[0] = 1;
    t[1] = u;
    t[2] = v;
    t[3] = u * u;
    t[4] = u * v;
    t[5] = v * v;
    const w = weights[k]!;
    for (let i = 0; i < TERMS; i++) {
      const wt = w * t[i]!;
      b[i]! += wt * values[k]!;
      const row = a[i]!;
      for (let j = 0; j <= i; j++) row[j]! += wt * t[j]!;
    }
  }
  for (let i = 0; i < TERMS; i++) for (let j = i + 1; j < TERMS; j++) a[i]![j] = a[j]![i]!;
  return solve(a, b);
}
