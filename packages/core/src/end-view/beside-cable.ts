import type { EndStrip } from './end-strip.ts';

/** What lies beside the middle, a row of values for each of some columns. */
export interface Beside {
  readonly count: number;
  readonly size: number;
  readonly values: Float32Array;
  /** How far beside each value lies, mm. */
  readonly away: readonly number[];
}
/** Reads what lies between two distances on both sides of the middle, from one column to another, some columns together. */
export function besideOf(
  { off, columns, rows, perMm }: EndStrip,
  middle: Float32Array,
  from: number,
  to: number,
  every: number,
  [near, far]: readonly [number, number],
  linesAMm = perMm,
): Beside {
  const lines = Math.max(2, Math.round((far - near) * linesAMm) + 1);
  const away: number[] = [];
  for (const side of [-1, 1])
    for (let j = 0; j < lines; j++) away.push(side * (near + ((far - near) * j) / (lines - 1)));
  const count = Math.max(0, Math.floor((Math.min(to, columns) - from) / every));
  const size = 3 * away.length;
  const values = new Float32Array(count * size);
  for (let n = 0; n < count; n++) {
    for (let j = 0; j < away.length; j++) {
      for (let k = from + n * every; k < from + (n + 1) * every; k++) {
        const row = Math.max(0, Math.min(rows - 1, Math.round(middle[k]! + away[j]! * perMm)));
        const i = row * columns + k;
        const at = n * size + 3 * j;
        values[at]! += off[0][i]! / every;
        values[at + 1]! += off[1][i]! / every;
        values[at + 2]! += off[2][i]! / every;
      }
    }
  }
  return { count, size, values, away };
}

/**
 * The place at which what lies on both sides of it differs most against how much it varies there, so that loose yarn is no edge. Null where there are too
 * few values. `rival`: another place that changes nearly as much. `reach`: so many values are looked at on both sides.
 */
export function biggestChange(
  { count, size, values }: Beside,
  reach: number,
): { readonly at: number; readonly rival: number | null } | null {
  if (count < 2 * reach + 1) return null;
  const sums = new Float64Array((count + 1) * size);
  const squares = new Float64Array((count + 1) * size);
  for (let i = 0; i < count * size; i++) {
    sums[i + size] = sums[i]! + values[i]!;
    squares[i + size] = squares[i]! + values[i]! * values[i]!;
  }
  const gains = new Float64Array(count);
  for (let n = reach; n <= count - reach; n++) {
    let gain = 0;
    for (let d = 0; d < size; d++) {
      const a = (n - reach) * size + d;
      const b = n * size + d;
      const c = (n + reach) * size + d;
      const left = (sums[b]! - sums[a]!) / reach;
      const right = (sums[c]! - sums[b]!) / reach;
      const varies = (squares[c]! - squares[a]!) / reach - left * left - right * right;
      gain += (left - right) ** 2 / (varies + VARIES ** 2);
    }
    gains[n] = gain;
  }
  const most = (from: number, to: number): number => {
    let at = from;
    for (let n = from; n < to; n++) if (gains[n]! > gains[at]!) at = n;
    return at;
  };
  const at = most(reach, count);
  const left = most(0, Math.max(1, at - reach));
  const right = most(Math.min(count - 1, at + reach), count);
  const rival = gains[left]! > gains[right]! ? left : right;
  return { at, rival: gains[rival]! > RIVAL * gains[at]! ? rival : null };
}
/** Where another place changes by this share of the biggest change it is not known which is the edge. */
const RIVAL = 0.5;
/** What light on one layer varies by at least, share of the paper's. */
const VARIES = 0.06;
