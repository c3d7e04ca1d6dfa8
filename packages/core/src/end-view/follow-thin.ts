import type { CablePath } from './cable-path.ts';
import type { EndStrip } from './end-strip.ts';

/** Blocks of columns, mm, and how far a thin fiber may lie from where it comes out. */
const BLOCK_THIN_MM = 0.5;
const THIN_REACH_MM = 4;

/** Radius of what a thin fiber is looked for by, mm. */
const THIN_MM = 0.13;
/** More than this counts no more: a bright thing is no more a fiber than another. */
const MOST_SCORE = 0.4;
/** What a mm of bend costs, squared. */
const BEND = 6;
/** Over so many mm before a place its direction is taken. */
const DIRECTION_MM = 12;

/**
 * The middle of the thin fiber from the buffer's edge on towards its end, by column: the way over the blocks that meets most of what differs from paper,
 * less what lies beside it, and bends least, found by dynamic programming (Bellman). It begins where the thicker part points.
 */
export function followThin(strip: EndStrip, path: CablePath, from: number): Float32Array {
  const { columns, rows, perMm, differs } = strip;
  const block = Math.max(2, Math.round(BLOCK_THIN_MM * perMm));
  const first = Math.floor(from);
  const count = Math.floor(first / block);
  if (count < 2) return path.middle;
  const behind = { from: first + 0.5 * perMm, to: Math.min(path.last, first + DIRECTION_MM * perMm) };
  const { slope, row: start } = directionOf(path.middle, behind.from, behind.to, first, block);
  const reach = Math.round(THIN_REACH_MM * perMm);
  const states = 2 * reach + 1;
  const half = Math.max(0.7, THIN_MM * perMm);
  const rowAt = (b: number, s: number): number => start - slope * (b + 0.5) * block + s - reach;
  let best = Float64Array.from({ length: states }, (_, s) => -4 * BEND * ((s - reach) / perMm) ** 2);
  const came: Int16Array[] = [];
  const step = Math.max(1, Math.round(0.14 * perMm));
  for (let b = 0; b < count; b++) {
    const to = first - b * block;
    const sums = sumsOf(profileOf(differs, columns, rows, to - block + 1, to));
    const next = new Float64Array(states).fill(-1e9);
    const by = new Int16Array(states);
    for (let s = 0; s < states; s++) {
      for (let d = -step; d <= step; d++) {
        const before = s + d;
        if (before < 0 || before >= states) continue;
        const value = best[before]! - BEND * (d / perMm) ** 2;
        if (value > next[s]!) {
          next[s] = value;
          by[s] = before;
        }
      }
      next[s]! += boxScore(sums, rowAt(b, s), half);
    }
    came.push(by);
    best = next;
  }
  let s = best.reduce((at, v, i) => (v > best[at]! ? i : at), 0);
  const found: number[] = [];
  for (let b = count - 1; b >= 0; b--) {
    found[b] = rowAt(b, s);
    s = came[b]![s]!;
  }
  const middle = path.middle.slice();
  for (let k = 0; k <= first; k++) {
    const b = Math.max(-0.5, Math.min(count - 1, (first - k) / block - 0.5));
    const i = Math.floor(b);
    const before = i < 0 ? start : found[i]!;
    const after = found[Math.min(count - 1, i + 1)]!;
    middle[k] = before + (after - before) * (b - i);
  }
  return middle;
}

function profileOf(
  differs: Float32Array,
  columns: number,
  rows: number,
  from: number,
  to: number,
): Float32Array {
  const out = new Float32Array(rows);
  for (let r = 0; r < rows; r++) {
    let sum = 0;
    for (let k = from; k <= to; k++) sum += differs[r * columns + k]!;
    out[r] = sum / (to - from + 1);
  }
  return out;
}

function directionOf(
  middle: Float32Array,
  from: number,
  to: number,
  at: number,
  step: number,
): { readonly slope: number; readonly row: number } {
  const xs: number[] = [];
  const ys: number[] = [];
  for (let k = Math.round(from); k <= to && k < middle.length; k += step) {
    xs.push(k);
    ys.push(middle[k]!);
  }
  if (xs.length < 3) return { slope: 0, row: middle[Math.min(middle.length - 1, Math.round(at))]! };
  // The nearer half says where it points; all of it would lag behind a bend.
  const n = Math.max(3, Math.ceil(xs.length / 2));
  const slope = slopeOf(xs.slice(0, n), ys.slice(0, n));
  return { slope, row: ys[0]! + slope * (at - xs[0]!) };
}

function sumsOf(profile: Float32Array): Float64Array {
  const sums = new Float64Array(profile.length + 1);
  for (let r = 0; r < profile.length; r++) sums[r + 1] = sums[r]! + Math.min(MOST_SCORE, profile[r]!);
  return sums;
}
/** What a box round a row holds in the mean, less half of what lies beside it. */
function boxScore(sums: Float64Array, row: number, half: number): number {
  // A level stands for the middle of its row.
  const c = row + 0.5;
  const left = meanBetween(sums, c - 1.9 * half, c - 1.25 * half);
  const right = meanBetween(sums, c + 1.25 * half, c + 1.9 * half);
  return meanBetween(sums, c - half, c + half) - 0.25 * (left + right);
}
const meanBetween = (sums: Float64Array, a: number, b: number): number =>
  (sumUpTo(sums, b) - sumUpTo(sums, a)) / (b - a);
function sumUpTo(sums: Float64Array, x: number): number {
  const c = Math.max(0, Math.min(sums.length - 1, x));
  const i = Math.min(sums.length - 2, Math.floor(c));
  return sums[i]! + (c - i) * (sums[i + 1]! - sums[i]!);
}

function slopeOf(xs: readonly number[], ys: readonly number[]): number {
  const n = xs.length;
  const mx = xs.reduce((a, b) => a + b, 0) / n;
  const my = ys.reduce((a, b) => a + b, 0) / n;
  let sxx = 0;
  let sxy = 0;
  for (let i = 0; i < n; i++) {
    sxx += (xs[i]! - mx) ** 2;
    sxy += (xs[i]! - mx) * (ys[i]! - my);
  }
  return sxx > 0 ? sxy / sxx : 0;
}
