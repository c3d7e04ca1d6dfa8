import { middleOf } from '../faces/pixels/quantile.ts';
import type { EndStrip } from './end-strip.ts';

/** The cable as it runs through a strip. */
export interface Followed {
  /** Row of its middle, by column. */
  readonly middle: Float32Array;
  /** How wide it is, mm, by column; 0 where nothing thick is seen. */
  readonly width: Float32Array;
  /** How much each place differs from paper, the most of three colours. */
  readonly differs: Float32Array;
}

/** Differs from paper by this share, or by so many standard deviations of it, is not paper. */
const DIFFERS = { share: 0.09, noises: 5 };
/** Thicker than this is cable or buffer, mm. */
const THICK_MM = 0.55;
const SECOND_MM = 0.7;
/** Columns are taken together over so many mm. */
const BLOCK_MM = 0.4;
/** A thin fiber bends away from where it comes out by so much a mm at most. */
const BLOCK_THIN_MM = 0.5;
const THIN_REACH_MM = 2.6;

export function differences({ off, noise }: EndStrip): Float32Array {
  const out = new Float32Array(off[0].length);
  for (let i = 0; i < out.length; i++)
    out[i] = Math.max(Math.abs(off[0][i]!), Math.abs(off[1][i]!), Math.abs(off[2][i]!));
  // What noise makes of the largest of three.
  const floor = 0.85 * noise;
  return out.map((v) => Math.max(0, v - floor));
}

/** Follows the thick part from the end at which it comes in, then the thin one beyond it. */
export function followCable(strip: EndStrip): Followed | 'no_cable' | 'two_cables' {
  const { columns, rows, perMm } = strip;
  const differs = differences(strip);
  const least = Math.max(DIFFERS.share, DIFFERS.noises * strip.noise);
  const block = Math.max(2, Math.round(BLOCK_MM * perMm));
  const middles: { at: number; row: number; width: number }[] = [];
  let row = (rows - 1) / 2;
  let seconds = 0;
  let blocks = 0;
  let missing = 0;
  for (let to = columns - 1; to - block >= 0; to -= block) {
    const profile = profileOf(differs, columns, rows, to - block + 1, to);
    const runs = runsOf(profile, least).filter((r) => (r.to - r.from + 1) / perMm >= THICK_MM);
    const nearest = runs.reduce<Run | null>(
      (b, r) => (b === null || Math.abs(r.middle - row) < Math.abs(b.middle - row) ? r : b),
      null,
    );
    const isNear =
      nearest !== null && Math.abs(nearest.middle - row) < (middles.length === 0 ? 7 : 1.2) * perMm;
    if (!isNear) {
      // At the border of the card the cable may lie a little beside it.
      if (++missing > (middles.length === 0 ? 12 : 5) && middles.length > 0) break;
      continue;
    }
    missing = 0;
    blocks += 1;
    ({ middle: row } = nearest);
    middles.push({ at: to - block / 2 + 0.5, row, width: (nearest.to - nearest.from + 1) / perMm });
    if (
      runs.some(
        (r) => r !== nearest && (r.to - r.from + 1) / perMm > SECOND_MM && apart(r, nearest) / perMm > 0.5,
      )
    )
      seconds += 1;
  }
  if (blocks * block < 5 * perMm) return 'no_cable';
  if (seconds > 0.35 * blocks) return 'two_cables';
  const middle = new Float32Array(columns);
  const width = new Float32Array(columns);
  spreadOut(middles, middle, width, block);
  followThin(differs, strip, middle, middles);
  return { middle, width, differs };
}

interface Run {
  readonly from: number;
  readonly to: number;
  readonly middle: number;
}
const apart = (a: Run, b: Run): number => Math.max(a.from - b.to, b.from - a.to);

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

/** Rows in a row that differ from paper; small holes are part of it, as where light lies on a cable. */
function runsOf(profile: Float32Array, least: number): Run[] {
  const runs: { from: number; to: number }[] = [];
  for (let r = 0; r < profile.length; r++) {
    if (profile[r]! < least) continue;
    const last = runs.at(-1);
    if (last && r - last.to <= 3) last.to = r;
    else runs.push({ from: r, to: r });
  }
  return runs.map(({ from, to }) => {
    // The middle of the two edges at half of what it is inside: a shadow is fainter.
    let most = 0;
    for (let r = from; r <= to; r++) most = Math.max(most, profile[r]!);
    let a = from;
    let b = to;
    while (a < b && profile[a]! < 0.5 * most) a += 1;
    while (b > a && profile[b]! < 0.5 * most) b -= 1;
    return { from: a, to: b, middle: (a + b) / 2 };
  });
}

/** Middles of blocks as middles of columns: smooth between them. */
function spreadOut(
  middles: readonly { at: number; row: number; width: number }[],
  middle: Float32Array,
  width: Float32Array,
  block: number,
): void {
  const rows = middles.map((_, i) => {
    const near = middles.slice(Math.max(0, i - 2), i + 3);
    return middleOf(Float32Array.from(near, (m) => m.row));
  });
  const last = middles.at(-1)!.at;
  for (let k = middle.length - 1; k >= 0; k--) {
    const i = Math.max(0, Math.min(middles.length - 1, Math.floor((middles[0]!.at - k) / block)));
    const j = Math.min(middles.length - 1, i + 1);
    const span = middles[i]!.at - middles[j]!.at;
    const t = span > 0 ? Math.max(0, Math.min(1, (middles[i]!.at - k) / span)) : 0;
    middle[k] = rows[i]! + (rows[j]! - rows[i]!) * t;
    width[k] = k >= last - block / 2 ? middles[t < 0.5 ? i : j]!.width : 0;
  }
}

/**
 * Follows the thin fiber beyond the thick part: the way over the blocks that meets most of what differs from paper and bends least, found by dynamic
 * programming (Bellman).
 */
function followThin(
  differs: Float32Array,
  { columns, perMm }: EndStrip,
  middle: Float32Array,
  middles: readonly { at: number; row: number }[],
): void {
  const start = middles.at(-1)!;
  const block = Math.max(2, Math.round(BLOCK_THIN_MM * perMm));
  const count = Math.floor(start.at / block);
  if (count < 2) return;
  // Where it points to by the last mm of the thick part.
  const some = middles.slice(-14);
  const slope = slopeOf(
    some.map((m) => m.at),
    some.map((m) => m.row),
  );
  const reach = Math.round(THIN_REACH_MM * perMm);
  const wide = Math.max(1, Math.round(0.12 * perMm));
  const states = 2 * reach + 1;
  const rowAt = (b: number, s: number): number =>
    Math.round(start.row - slope * (b + 0.5) * block) + s - reach;
  const score = (b: number, s: number): number => {
    const to = Math.floor(start.at) - b * block;
    const row = rowAt(b, s);
    let sum = 0;
    for (let k = to - block + 1; k <= to; k++)
      for (let r = row - wide; r <= row + wide; r++) sum += differs[r * columns + k] ?? 0;
    return Math.min(0.5, sum / (block * (2 * wide + 1)));
  };
  let best = new Float64Array(states).fill(-1e9);
  best[reach] = 0;
  for (let s = 0; s < states; s++) best[s] = -BEND * ((s - reach) / perMm) ** 2 * 4;
  const came: Int16Array[] = [];
  const step = Math.max(1, Math.round(0.14 * perMm));
  for (let b = 0; b < count; b++) {
    const next = new Float64Array(states).fill(-1e9);
    const from = new Int16Array(states);
    for (let s = 0; s < states; s++) {
      for (let d = -step; d <= step; d++) {
        const before = s + d;
        if (before < 0 || before >= states) continue;
        const value = best[before]! - BEND * (d / perMm) ** 2;
        if (value > next[s]!) {
          next[s] = value;
          from[s] = before;
        }
      }
      next[s]! += score(b, s);
    }
    came.push(from);
    best = next;
  }
  let s = best.reduce((b, v, i) => (v > best[b]! ? i : b), 0);
  const rows: number[] = [];
  for (let b = count - 1; b >= 0; b--) {
    rows[b] = rowAt(b, s);
    s = came[b]![s]!;
  }
  for (let k = 0; k < Math.floor(start.at); k++) {
    const b = Math.max(0, Math.min(count - 1, (Math.floor(start.at) - k) / block - 0.5));
    const i = Math.floor(b);
    const j = Math.min(count - 1, i + 1);
    middle[k] = rows[i]! + (rows[j]! - rows[i]!) * (b - i);
  }
}
/** What a mm of bend costs, squared. */
const BEND = 6;

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
