import { type GreyImage, shrink } from '../../faces/pixels/image.ts';
import { middleOf } from '../../faces/pixels/quantile.ts';
import { balancedRows, type ColumnEdge } from '../balanced-edges.ts';
import { fitBackground } from '../background.ts';
import { firstFall, levelsAlong } from '../edge-profile.ts';
import { darkPlaces, findStrips, type Strip } from '../find-strips.ts';

/** Why a picture shows no joint that can be measured. */
export const JOINT_REFUSALS = [
  'no_fiber',
  'one_end',
  'gap',
  'balled',
  'defocused',
  'washed_out',
  'coated',
] as const;
export type JointRefusal = (typeof JOINT_REFUSALS)[number];

/** Both outer edges of a fiber in one column of a picture, pixels; half-way from light to dark. */
export interface EdgePair {
  readonly x: number;
  readonly top: number;
  readonly bottom: number;
}
/** A fiber that goes through a picture from its left to its right. Pixels. */
export interface ThroughFiber {
  /** Columns that show both edges, in order. */
  readonly pairs: readonly EdgePair[];
  /** The usual distance of the edges in a column. */
  readonly width: number;
  readonly light: number;
  readonly dark: number;
  /** Standard deviation of the light beside the fiber. */
  readonly spread: number;
  readonly from: number;
  readonly to: number;
}

const SMALL_WIDTH = 400;
/** A fiber comes in where it is seen within this share of the width from the border. */
const AT_BORDER = 0.07;
const DARK_FIELD = 45;
const LEAST_LEVEL = 12;

/** Follows the fiber through a back-lit picture, or says why none goes through. */
export function followThrough(image: GreyImage): ThroughFiber | JointRefusal {
  const shrunk = Math.max(1, Math.round(image.width / SMALL_WIDTH));
  const small = shrink(image, shrunk);
  const light = fitBackground(small);
  if (light.at(small.width / 2, small.height / 2) < DARK_FIELD) return 'no_fiber';
  const strips = findStrips(darkPlaces(small, light), small.width, small.height).sort(
    (a, b) => a.from - b.from,
  );
  if (strips.length === 0) return 'no_fiber';
  const border = AT_BORDER * small.width;
  const first = strips[0]!;
  const last = strips.at(-1)!;
  const isAtLeft = first.from <= border;
  const isAtRight = last.to >= small.width - 1 - border;
  if (!isAtLeft && !isAtRight) return 'no_fiber';
  const least = Math.max(5 * light.spread, LEAST_LEVEL);
  const height = Math.max(first.height, last.height) * shrunk;
  const rim = image.width - 1;
  const from = isAtLeft ? Math.max(0, first.from * shrunk) : 0;
  const to = isAtRight ? Math.min(rim, (last.to + 1) * shrunk) : rim;
  const rough = (x: number): number => roughMiddle(strips, x / shrunk) * shrunk;
  // Once where the strips say, once more round what was found: a bend or a step leaves the strips.
  const once = readPairs(image, rough, height, 0.45, from, to, least);
  if (once.pairs.length < (to - from) / 3) return isAtLeft && isAtRight ? 'gap' : 'one_end';
  // Where no strip reached the border: a bend or dirt, or nothing at all.
  const isSeen = (x: number, end: number): boolean =>
    once.pairs.filter((p) => (p.x - x) * (p.x - end) <= 0).length > Math.abs(end - x) / 2;
  if (!isAtLeft && !isSeen(0, first.from * shrunk)) return 'one_end';
  if (!isAtRight && !isSeen(last.to * shrunk, rim)) return 'one_end';
  const near = smoothMiddle(once.pairs, Math.max(5, Math.round(height / 12)));
  const found = readPairs(image, near, once.width, 0.3, from, to, Math.max(least, 0.2 * once.contrast));
  return {
    pairs: found.pairs,
    width: found.width,
    light: found.light,
    dark: found.light - found.contrast,
    spread: light.spread,
    from,
    to,
  };
}

/** Columns without edges that are a gap: the longest run of them, pixels. */
export function longestGap({ pairs }: ThroughFiber): number {
  let most = 0;
  for (let i = 1; i < pairs.length; i++) most = Math.max(most, pairs[i]!.x - pairs[i - 1]!.x - 1);
  return most;
}

/** The middle by the strips: in one its own, between two on the way from one to the other. */
function roughMiddle(strips: readonly Strip[], x: number): number {
  const on = (s: Strip): number => s.middle + s.slope * x;
  const first = strips[0]!;
  const last = strips.at(-1)!;
  if (first === last || x <= first.to) return on(first);
  if (x >= last.from) return on(last);
  const way = (x - first.to) / Math.max(1, last.from - first.to);
  return (1 - way) * on(first) + way * on(last);
}

interface ReadPairs {
  readonly pairs: EdgePair[];
  readonly width: number;
  readonly light: number;
  readonly contrast: number;
}
function readPairs(
  image: GreyImage,
  middleAt: (x: number) => number,
  width: number,
  margin: number,
  from: number,
  to: number,
  least: number,
): ReadPairs {
  const tops: ColumnEdge[] = [];
  const bottoms: ColumnEdge[] = [];
  const span = Math.max(6, Math.round(margin * width));
  const n = span + Math.round(0.3 * width);
  const lit = Math.max(3, Math.round(span * 0.3));
  const levels = new Float64Array(n);
  let light = 0;
  let dark = 0;
  for (let x = from; x <= to; x++) {
    const middle = middleAt(x);
    const start = Math.max(0, Math.round(middle - width / 2 - span));
    const stop = Math.min(image.height - 1, Math.round(middle + width / 2 + span));
    const top = firstFall(levelsAlong(image, { x, y: start }, { x: 0, y: 1 }, n, 1, levels), lit, least);
    const bottom = firstFall(levelsAlong(image, { x, y: stop }, { x: 0, y: -1 }, n, 1, levels), lit, least);
    if (!top || !bottom) continue;
    tops.push({ x, start, way: 1, ...top });
    bottoms.push({ x, start: stop, way: -1, ...bottom });
    light += (top.light + bottom.light) / 2;
    dark += (top.dark + bottom.dark) / 2;
  }
  const upper = balancedRows(image, tops);
  const lower = balancedRows(image, bottoms);
  const pairs = tops.map(({ x }, i) => ({ x, top: upper[i]!, bottom: lower[i]! }));
  const count = Math.max(1, pairs.length);
  return {
    pairs,
    width: pairs.length === 0 ? width : middleOf(Float32Array.from(pairs, (p) => p.bottom - p.top)),
    light: light / count,
    contrast: (light - dark) / count,
  };
}

/** Middle of the edges by column: the median of the columns near it. */
function smoothMiddle(pairs: readonly EdgePair[], reach: number): (x: number) => number {
  const smooth = pairs.map((_, i) =>
    middleOf(
      Float32Array.from(pairs.slice(Math.max(0, i - reach), i + reach + 1), (p) => (p.top + p.bottom) / 2),
    ),
  );
  let at = 0;
  return (x) => {
    if (pairs[at]!.x > x) at = 0;
    while (at < pairs.length - 1 && pairs[at + 1]!.x <= x) at++;
    return smooth[at]!;
  };
}
