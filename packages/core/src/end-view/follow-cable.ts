import { middleOf } from '../faces/pixels/quantile.ts';
import type { EndStrip } from './end-strip.ts';

/** The cable as it runs through a strip. */
export interface Followed {
  /** Row of its middle, by column. */
  readonly middle: Float32Array;
  /** How wide it is, mm, by column; 0 where nothing thick is seen. */
  readonly width: Float32Array;
  /** The column from which on it is seen, on the cable's side. */
  readonly start: number;
}

/** Differs from paper by this share, or by so many standard deviations of it, is not paper. */
const DIFFERS = { share: 0.09, noises: 5 };
/** Thicker than this is cable or buffer, mm. */
const THICK_MM = 0.55;
const SECOND_MM = 0.7;
const MOST_THICK_MM = 7;
/** The cable lies so near to the axis where it is seen first, mm. */
const FIRST_MM = 9;
/** Columns are taken together over so many mm. */
const BLOCK_MM = 0.4;
/** A thin fiber bends away from where it comes out by so much a mm at most. */
const BLOCK_THIN_MM = 0.5;
const THIN_REACH_MM = 4;

/** Follows the thick part from the end at which it comes in, then the thin one beyond it. */
export function followCable(strip: EndStrip): Followed | 'no_cable' | 'two_cables' {
  const { columns, perMm, differs } = strip;
  const block = Math.max(2, Math.round(BLOCK_MM * perMm));
  let best: Chain | null = null;
  // At the border of the card something else may lie: where a chain is short the next is begun further in.
  for (let to = columns - 1; to - block >= 0;) {
    const chain = chainFrom(strip, differs, to, block);
    if (!best || chain.links.length > best.links.length) best = chain;
    if (best.links.length * block >= ENOUGH_MM * perMm) break;
    to = Math.min(to - block, Math.floor(chain.links.at(-1)?.at ?? to) - block);
  }
  if (!best || best.links.length * block < LEAST_MM * perMm) return 'no_cable';
  if (best.seconds > SECONDS * best.links.length) return 'two_cables';
  const middle = new Float32Array(columns);
  const width = new Float32Array(columns);
  spreadOut(best.links, middle, width, block);
  return { middle, width, start: Math.floor(best.links[0]!.at) };
}
/** A chain of blocks of this length is the cable; a shorter one than the other is nothing. */
const ENOUGH_MM = 12;
const LEAST_MM = 5;
/** Share of the blocks that show a second cable. */
const SECONDS = 0.35;

interface Link {
  readonly at: number;
  readonly row: number;
  readonly width: number;
}
interface Chain {
  readonly links: readonly Link[];
  readonly seconds: number;
}
/** Follows what is thick from a column on, towards the end of the fiber. */
function chainFrom(
  { columns, rows, perMm, noise }: EndStrip,
  differs: Float32Array,
  from: number,
  block: number,
): Chain {
  const least = Math.max(DIFFERS.share, DIFFERS.noises * noise);
  const links: Link[] = [];
  let row = (rows - 1) / 2;
  let seconds = 0;
  let missing = 0;
  for (let to = from; to - block >= 0; to -= block) {
    const profile = profileOf(differs, columns, rows, to - block + 1, to);
    const runs = runsOf(profile, least, Math.round(HOLE_MM * perMm)).filter((r) => {
      const thick = (r.to - r.from + 1) / perMm;
      // What reaches the border of the strip is the desk, or goes out of it.
      return thick >= THICK_MM && thick <= MOST_THICK_MM && r.from > 1 && r.to < rows - 2;
    });
    const nearest = runs.reduce<Run | null>(
      (b, r) => (b === null || Math.abs(r.middle - row) < Math.abs(b.middle - row) ? r : b),
      null,
    );
    const isFirst = links.length === 0;
    if (nearest === null || Math.abs(nearest.middle - row) > (isFirst ? FIRST_MM : 1.2) * perMm) {
      if (!isFirst && ++missing > 5) break;
      continue;
    }
    missing = 0;
    row = nearest.middle;
    links.push({ at: to - block / 2 + 0.5, row, width: (nearest.to - nearest.from + 1) / perMm });
    const isSecond = (r: Run): boolean =>
      r !== nearest && (r.to - r.from + 1) / perMm > SECOND_MM && apart(r, nearest) / perMm > HOLE_MM;
    if (runs.some(isSecond)) seconds += 1;
  }
  return { links, seconds };
}
/** Light that lies on a cable makes a hole of no more than this. */
const HOLE_MM = 0.5;

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
function runsOf(profile: Float32Array, least: number, hole: number): Run[] {
  const runs: { from: number; to: number }[] = [];
  for (let r = 0; r < profile.length; r++) {
    if (profile[r]! < least) continue;
    const last = runs.at(-1);
    if (last && r - last.to <= hole + 1) last.to = r;
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
function spreadOut(middles: readonly Link[], middle: Float32Array, width: Float32Array, block: number): void {
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

/** Radius of a tight buffer (common practice: 900 µm) and of what a thin fiber is looked for by, mm. */
const BUFFER_MM = 0.45;
const THIN_MM = 0.13;
/** More than this counts no more: a bright thing is no more a fiber than another. */
const MOST_SCORE = 0.4;
/** What a mm of bend costs, squared. */
const BEND = 6;
/** Over so many mm before a place its direction is taken. */
const DIRECTION_MM = 12;

/** The middle of what is as thick as a buffer, from the jacket's edge on: yarn beside it takes the middle of all that is thick along. */
export function followBuffer(strip: EndStrip, followed: Followed, from: number): Followed {
  return followFrom(strip, followed, from, BUFFER_MM);
}
/** The middle of the thin fiber, from the buffer's edge on. */
export function followThin(strip: EndStrip, followed: Followed, from: number): Followed {
  return followFrom(strip, followed, from, THIN_MM);
}

/**
 * Follows what is so thick from a column towards the end of the fiber: the way over the blocks that meets most of what differs from paper, less what lies
 * beside it, and bends least, found by dynamic programming (Bellman). It begins where the thicker part points.
 */
function followFrom(strip: EndStrip, followed: Followed, from: number, halfMm: number): Followed {
  const { columns, rows, perMm, differs } = strip;
  const block = Math.max(2, Math.round(BLOCK_THIN_MM * perMm));
  const first = Math.floor(from);
  const count = Math.floor(first / block);
  if (count < 2) return followed;
  const behind = { from: first + 0.5 * perMm, to: Math.min(followed.start, first + DIRECTION_MM * perMm) };
  const { slope, row: start } = directionOf(followed.middle, behind.from, behind.to, first, block);
  const reach = Math.round(THIN_REACH_MM * perMm);
  const states = 2 * reach + 1;
  const half = Math.max(0.7, halfMm * perMm);
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
  const middle = Float32Array.from(followed.middle);
  for (let k = 0; k <= first; k++) {
    const b = Math.max(-0.5, Math.min(count - 1, (first - k) / block - 0.5));
    const i = Math.floor(b);
    const before = i < 0 ? start : found[i]!;
    const after = found[Math.min(count - 1, i + 1)]!;
    middle[k] = before + (after - before) * (b - i);
  }
  return { ...followed, middle };
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
