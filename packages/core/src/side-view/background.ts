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
const STEP = 3;

/** Fits the light behind a fiber by expectiles (Newey and Powell 1987), then without what differs from it. */
export function fitBackground({ width, height, level }: SmallPicture): Background {
  const terms = (x: number, y: number): number[] => {
    const u = (2 * x) / width - 1;
    const v = (2 * y) / height - 1;
    return [1, u, v, u * u, u * v, v * v];
  };
  const rows: { readonly t: readonly number[]; readonly value: number }[] = [];
  for (let y = 1; y < height; y += STEP)
    for (let x = 1; x < width; x += STEP) rows.push({ t: terms(x, y), value: level[y * width + x]! });
  const valueOf = (c: readonly number[], t: readonly number[]): number =>
    c.reduce((sum, k, i) => sum + k * t[i]!, 0);

  let found: number[] = [Math.max(...rows.map((r) => r.value)), 0, 0, 0, 0, 0];
  let spread = 2;
  for (let round = 0; round < EXPECTILE_ROUNDS + CLIP_ROUNDS; round++) {
    const isClipped = round >= EXPECTILE_ROUNDS;
    const left = rows.map((r) => r.value - valueOf(found, r.t));
    if (isClipped) {
      const near = left.map(Math.abs).filter((r) => r < CLIP * Math.max(spread, 4));
      spread = Math.max(1, 1.4826 * middleOf(Float32Array.from(near)));
    } else if (round === EXPECTILE_ROUNDS - 1) {
      const above = left.filter((r) => r > 0);
      spread = Math.max(1.5, 1.4826 * middleOf(Float32Array.from(above)));
    }
    const weights = left.map((r) =>
      isClipped ? (Math.abs(r) < CLIP * spread ? 1 : 1e-4) : r > 0 ? ABOVE : 1,
    );
    found = weightedFit(rows, weights) ?? found;
  }
  return { at: (x, y) => valueOf(found, terms(x, y)), spread };
}

function weightedFit(
  rows: readonly { readonly t: readonly number[]; readonly value: number }[],
  weights: readonly number[],
): number[] | null {
  const a = Array.from({ length: TERMS }, () => new Float64Array(TERMS));
  const b = new Float64Array(TERMS);
  rows.forEach(({ t, value }, k) => {
    const w = weights[k]!;
    for (let i = 0; i < TERMS; i++) {
      b[i]! += w * t[i]! * value;
      for (let j = 0; j <= i; j++) a[i]![j]! += w * t[i]! * t[j]!;
    }
  });
  for (let i = 0; i < TERMS; i++) for (let j = i + 1; j < TERMS; j++) a[i]![j] = a[j]![i]!;
  return solve(a, b);
}
