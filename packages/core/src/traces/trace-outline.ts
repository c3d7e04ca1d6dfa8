import type { Trace } from './trace.ts';

/** The lowest and the highest level of each column of a drawing. */
export interface TraceOutline {
  /** Metres of the first column's left edge, and of each column. */
  readonly fromM: number;
  readonly columnM: number;
  readonly lows: Float64Array;
  readonly highs: Float64Array;
}

const GROUP = 64;

/** Lowest and highest level of each 64 points, so that a drawing of a long trace takes few of them. */
export interface TraceGroups {
  readonly lows: Float64Array;
  readonly highs: Float64Array;
}

/** The groups of a trace, which `traceOutline` takes. */
export function traceGroups({ levelsDb }: Trace): TraceGroups {
  const count = Math.ceil(levelsDb.length / GROUP);
  const lows = new Float64Array(count).fill(Infinity);
  const highs = new Float64Array(count).fill(-Infinity);
  for (let i = 0; i < levelsDb.length; i++) {
    const g = (i / GROUP) | 0;
    const level = levelsDb[i]!;
    if (level < lows[g]!) lows[g] = level;
    if (level > highs[g]!) highs[g] = level;
  }
  return { lows, highs };
}

/**
 * What a drawing of `columns` columns from `fromM` to `toM` shows: each column spans its lowest and highest point, so that no spike is
 * left out. A column without a point of its own (closer than the points lie) has the level between its neighbours. Columns outside of the trace are NaN.
 */
export function traceOutline(
  trace: Trace,
  groups: TraceGroups,
  fromM: number,
  toM: number,
  columns: number,
): TraceOutline {
  const lows = new Float64Array(columns).fill(Number.NaN);
  const highs = new Float64Array(columns).fill(Number.NaN);
  const columnM = (toM - fromM) / columns;
  const { firstM, spacingM, levelsDb } = trace;
  const at = (m: number): number => (m - firstM) / spacingM;
  for (let c = 0; c < columns; c++) {
    const left = at(fromM + c * columnM);
    const right = at(fromM + (c + 1) * columnM);
    const from = Math.max(0, Math.ceil(left));
    const to = Math.min(levelsDb.length, Math.ceil(right));
    if (from < to) {
      const [low, high] = extremes(levelsDb, groups, from, to);
      if (low > high) continue;
      lows[c] = low;
      highs[c] = high;
    } else if (left >= 0 && right <= levelsDb.length - 1) {
      const middle = (left + right) / 2;
      const i = Math.floor(middle);
      const level = levelsDb[i]! + (middle - i) * ((levelsDb[i + 1] ?? levelsDb[i]!) - levelsDb[i]!);
      lows[c] = level;
      highs[c] = level;
    }
  }
  return { fromM, columnM, lows, highs };
}

function extremes(
  levels: Float64Array,
  groups: TraceGroups,
  from: number,
  to: number,
): readonly [number, number] {
  let low = Infinity;
  let high = -Infinity;
  const take = (least: number, most: number): void => {
    if (least < low) low = least;
    if (most > high) high = most;
  };
  let i = from;
  while (i < to) {
    if (i % GROUP === 0 && i + GROUP <= to) {
      const g = i / GROUP;
      take(groups.lows[g]!, groups.highs[g]!);
      i += GROUP;
    } else {
      take(levels[i]!, levels[i]!);
      i += 1;
    }
  }
  return [low, high];
}

/**
 * One trace less another, point by point of the first, dB; at places where the other has no points it is NaN. Example: a fiber before
 * and after it was bent differs by the bend from there on.
 */
export function traceDifference(one: Trace, other: Trace): Trace {
  const levelsDb = one.levelsDb.map((level, i) => {
    const x = (one.firstM + i * one.spacingM - other.firstM) / other.spacingM;
    const k = Math.floor(x);
    const here = other.levelsDb[k];
    const next = other.levelsDb[k + 1];
    if (here === undefined) return Number.NaN;
    return level - (next === undefined ? here : here + (x - k) * (next - here));
  });
  return { ...one, levelsDb };
}
