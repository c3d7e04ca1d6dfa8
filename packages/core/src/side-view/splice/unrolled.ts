import { type GreyImage, sampleAt } from '../../faces/pixels/image.ts';
import { middleOf } from '../../faces/pixels/quantile.ts';

/** A fiber drawn straight: one column a column of the picture, rows across it from its middle. */
export interface UnrolledFiber {
  readonly from: number;
  readonly columns: number;
  /** Rows to each side of the middle; `2 reach + 1` in all. */
  readonly reach: number;
  /** Levels, row after row; NaN outside of the picture. */
  readonly level: Float32Array;
  /** Each level against the usual one along its row nearby: 1 where nothing is. */
  readonly ratio: Float32Array;
}

/** Levels under this say nothing of what is there. */
const DARK = 6;
/** How far to each side along the row the usual level is taken, and in what steps. */
const BESIDE = { from: 4, steps: 7 };

/**
 * Draws a fiber straight along `middle`, across its `slope`, so many rows to each side, from one column to another. `near` is how far along the axis, in pixels, a level is
 * compared.
 */
export function unrolled(
  image: GreyImage,
  middle: (x: number) => number,
  slope: number,
  reach: number,
  from: number,
  to: number,
  near: number,
): UnrolledFiber {
  const first = Math.max(1, Math.ceil(from));
  const columns = Math.max(0, Math.min(image.width - 2, Math.floor(to)) - first + 1);
  const rows = 2 * reach + 1;
  const level = new Float32Array(rows * columns);
  for (let k = 0; k < columns; k++) {
    const m = middle(first + k);
    for (let r = 0; r < rows; r++)
      level[r * columns + k] = sampleAt(image, first + k - slope * (r - reach), m + r - reach) ?? Number.NaN;
  }
  const ratio = new Float32Array(rows * columns).fill(1);
  const aways: number[] = [];
  for (let s = 1; s <= BESIDE.steps; s++) {
    const away = Math.round((near * (BESIDE.from + s)) / (BESIDE.from + BESIDE.steps));
    aways.push(-away, away);
  }
  const some = new Float32Array(aways.length);
  for (let r = 0; r < rows; r++) {
    for (let k = 0; k < columns; k++) {
      let n = 0;
      for (const away of aways) {
        const at = k + away;
        if (at < 0 || at >= columns) continue;
        const value = level[r * columns + at]!;
        if (Number.isFinite(value)) some[n++] = value;
      }
      const own = level[r * columns + k]!;
      if (n < BESIDE.steps || !Number.isFinite(own)) continue;
      const usual = middleOf(some.subarray(0, n));
      if (usual > DARK) ratio[r * columns + k] = own / usual;
    }
  }
  return { from: first, columns, reach, level, ratio };
}
