import type { GreyImage } from '../faces/pixels/image.ts';
import { firstFall, levelsAlong } from './edge-profile.ts';
import { CORRELATED, middleLine, robustFit } from './robust.ts';

/** A fiber from the side, as its two outer edges run; all in pixels. Columns count from `origin`, positive away from the end. */
export interface FiberEdges {
  readonly side: 'left' | 'right';
  /** The column to which the fit is referred: that of the end. */
  readonly origin: number;
  /** Middle of the fiber at the origin, its slope there (rows a column of the picture), and its curvature. */
  readonly middle: number;
  readonly slope: number;
  readonly bend: number;
  /** Standard uncertainty of the slope. */
  readonly slopeSd: number;
  /** Distance of the two edges across the fiber, half-way from light to dark. */
  readonly width: number;
  readonly widthSd: number;
  /** Mean levels outside and inside of the edges. */
  readonly light: number;
  readonly dark: number;
  /** Columns that were read, nearest and farthest from the end. */
  readonly near: number;
  readonly far: number;
  readonly points: readonly { readonly x: number; readonly top: number; readonly bottom: number }[];
}

/** So many widths of the fiber its edges are read over. */
const REACH = 3.2;
/** Curvature counts where it is so many times its uncertainty. */
const SIGNIFICANT = 4;
const LEAST_POINTS = 12;

/**
 * The edges of a fiber near its end. `middleAt` is where its middle lies, roughly; `width` roughly how thick it is; `end` the column of its
 * end, roughly; every `step`-th column is read. Null where too few edges are seen.
 */
export function fitFiberEdges(
  image: GreyImage,
  side: 'left' | 'right',
  end: number,
  width: number,
  middleAt: (x: number) => number,
  border: { readonly from: number; readonly to: number },
  least: number,
  step = 1,
): FiberEdges | null {
  const inward = side === 'left' ? -1 : 1;
  const margin = 0.06 * width;
  const points: { x: number; top: number; bottom: number }[] = [];
  let light = 0;
  let dark = 0;
  const reach = Math.ceil(REACH * width);
  const span = Math.max(5, Math.round(0.22 * width));
  const levels = new Float64Array(2 * span);
  for (let d = Math.ceil(margin); d < reach; d += step) {
    const x = Math.round(end + inward * d);
    if (x < border.from || x > border.to) continue;
    const middle = middleAt(x);
    const start = Math.round(middle - width / 2 - span);
    const stop = Math.round(middle + width / 2 + span);
    const lit = Math.max(3, Math.round(span * 0.5));
    const top = firstFall(
      levelsAlong(image, { x, y: start }, { x: 0, y: 1 }, 2 * span, 1, levels),
      lit,
      least,
    );
    const bottom = firstFall(
      levelsAlong(image, { x, y: stop }, { x: 0, y: -1 }, 2 * span, 1, levels),
      lit,
      least,
    );
    if (!top || !bottom) continue;
    points.push({ x, top: start + top.at, bottom: stop - bottom.at });
    light += top.light + bottom.light;
    dark += top.dark + bottom.dark;
  }
  if (points.length < LEAST_POINTS) return null;
  const n = points.length;
  return fitted(points, side, Math.round(end), light / (2 * n), dark / (2 * n));
}

function fitted(
  points: FiberEdges['points'],
  side: FiberEdges['side'],
  origin: number,
  light: number,
  dark: number,
): FiberEdges | null {
  // Both edges in one fit: middle, slope, bend, half the width; the upper one counts the width up.
  const terms: number[][] = [];
  const values: number[] = [];
  for (const p of points) {
    const x = p.x - origin;
    terms.push([1, x, x * x, -1], [1, x, x * x, 1]);
    values.push(p.top, p.bottom);
  }
  const xs = points.map((p) => p.x - origin);
  const [middle, slope] = middleLine(
    xs,
    points.map((p) => (p.top + p.bottom) / 2),
  );
  const [half] = middleLine(
    xs,
    points.map((p) => (p.bottom - p.top) / 2),
  );
  const bent = robustFit(terms, values, { start: [middle, slope, 0, half], least: 0.02 });
  const straightTerms = terms.map((t) => [t[0]!, t[1]!, t[3]!]);
  const straight = robustFit(straightTerms, values, { start: [middle, slope, half], least: 0.02 });
  if (!straight) return null;
  const bendSd = bent ? bent.spread * Math.sqrt(bent.inverse[2]![2]!) * CORRELATED : Infinity;
  const isBent = bent !== null && Math.abs(bent.coefficients[2]!) > SIGNIFICANT * bendSd;
  const used = isBent ? bent : straight;
  const c = used.coefficients;
  const s = c[1]!;
  const slant = Math.hypot(1, s);
  const k = isBent ? 3 : 2;
  return {
    side,
    origin,
    middle: c[0]!,
    slope: s,
    bend: isBent ? c[2]! : 0,
    slopeSd: used.spread * Math.sqrt(used.inverse[1]![1]!) * CORRELATED,
    width: (2 * c[k]!) / slant,
    widthSd: (2 * used.spread * Math.sqrt(used.inverse[k]![k]!) * CORRELATED) / slant,
    light,
    dark,
    near: points[0]!.x,
    far: points.at(-1)!.x,
    points,
  };
}

/** Where the middle of a fiber lies at a column. */
export const middleAt = (f: FiberEdges, x: number): number =>
  f.middle + f.slope * (x - f.origin) + f.bend * (x - f.origin) ** 2;
