import { FACE_SETTINGS, type FaceSettings } from '../settings.ts';
import type { Circle } from '../pixels/enclosing-circle.ts';
import { fitCircle } from './fit-circle.ts';
import { type GreyImage, sampleAt, sampleRay } from '../pixels/image.ts';
import { middleOf } from '../pixels/quantile.ts';
import { isFace } from './is-face.ts';
import { fitPart, fitRimProfile, type RimProfile, WIDEST } from './rim-profile.ts';
import { voteForCircle } from './vote.ts';

/** The cladding's outer edge, in pixels, and how sharply it stands in the picture. */
export interface Cladding {
  readonly circle: Circle;
  /** Blur of the edge, standard deviation in pixels. */
  readonly blurPx: number;
  /** Width of the ring round it that is darker than glass and ferrule, as of adhesive; 0 where none is seen. */
  readonly ringPx: number;
  /** Level of the cladding near its edge. */
  readonly level: number;
}
export type CladdingFound =
  | { readonly state: 'found'; readonly cladding: Cladding }
  | { readonly state: 'none' }
  | { readonly state: 'cut' };

const ANGLES = 360;
/** Less of a rise or fall is no edge; levels. */
const LEAST_STEEP = 4;
const RIM_ANGLES = 240;
/** How far from the circle the rim is looked for, round by round: shares of the radius, wide at first. */
const REACHES = [0.2, 0.12, 0.08, 0.08];

/**
 * Finds the cladding circle: a vote of the edges of a coarse copy for its centre, the radius from the edges round that
 * centre, then the edge at 360 angles of the picture itself and a circle through them that a chipped or dirty edge does
 * not pull. A thin dark adhesive ring lies outside the cladding: the edge is its inner side, found by a model of the rim.
 * `cut` when the circle is not wholly in the picture, `none` when there is no circle.
 */
export function findCladding(image: GreyImage, settings: FaceSettings = FACE_SETTINGS): CladdingFound {
  const voted = voteForCircle(image);
  if (!voted) return { state: 'none' };
  let circle = voted.circle;
  const quiet = voted.byGrain ? quietOf(image, circle) : null;
  let spread = Infinity;
  for (const reach of REACHES) {
    const edge = edgePoints(image, circle, reach, quiet);
    if (edge.xs.length < settings.cladding.leastSeen * ANGLES)
      return { state: isCut(image, circle) ? 'cut' : 'none' };
    const fitted = fitCircle(edge.xs, edge.ys, circle);
    if (!fitted) return { state: 'none' };
    ({ circle, spread } = fitted);
  }
  if (spread > 0.03 * circle.r) return { state: 'none' };
  if (isCut(image, circle)) return { state: 'cut' };
  const rim = fitRimProfile(rimProfile(image, circle, 0, 1), circle.r);
  if (!rim) return { state: 'none' };
  if (isDrawn(rim)) return { state: 'none' };
  const parts = partsOf(image, circle, rim);
  const through = fitCircle(parts.xs, parts.ys, { ...circle, r: rim.radius });
  const isNear = through !== null && Math.abs(through.circle.r / rim.radius - 1) < 0.03;
  const whole: Circle = isNear ? through.circle : { ...circle, r: rim.radius };
  if (isCut(image, whole)) return { state: 'cut' };
  const blurPx = isNear ? middleOf(Float32Array.from(parts.blurs)) : rim.blur;
  const ringPx = rim.ring?.width ?? 0;
  if (!isFace(image, whole, ringPx, blurPx, settings)) return { state: 'none' };
  return { state: 'found', cladding: { circle: whole, blurPx, ringPx, level: rim.inside } };
}

/** A line wider than any of adhesive, with the same on both of its sides, is a circle that somebody drew. */
const isDrawn = ({ ring, radius, inside, outside, off }: RimProfile): boolean =>
  ring !== null &&
  ring.width > 0.95 * WIDEST * radius &&
  off > 0.05 * Math.abs(inside - ring.level) &&
  Math.abs(inside / outside - 1) < 0.15;

const isCut = ({ width, height }: GreyImage, { x, y, r }: Circle): boolean =>
  x - r < 1 || y - r < 1 || x + r > width - 2 || y + r > height - 2;

/** What glass within a circle never rises or falls by over three pixels of a ray; levels. */
function quietOf(image: GreyImage, { x, y, r }: Circle): number {
  const steeps: number[] = [];
  for (let a = 0; a < ANGLES; a += 5) {
    const t = (a / ANGLES) * 2 * Math.PI;
    for (let d = 0.45 * r; d < 0.75 * r; d += 1.5) {
      const near = sampleAt(image, x + d * Math.cos(t), y + d * Math.sin(t));
      const far = sampleAt(image, x + (d + 3) * Math.cos(t), y + (d + 3) * Math.sin(t));
      if (near !== null && far !== null) steeps.push(Math.abs(far - near));
    }
  }
  return QUIET_SPREADS * 1.4826 * middleOf(Float32Array.from(steeps));
}
/** Of a hundred places along a ray hardly one differs so much by chance. */
const QUIET_SPREADS = 3.5;

/**
 * Where the rim is at each angle: the steepest place within a share of the radius from the circle, or, where the grain beyond
 * is steeper than the rim, the innermost that is steeper than `quiet`.
 */
function edgePoints(
  image: GreyImage,
  { x, y, r }: Circle,
  share: number,
  quiet: number | null,
): { xs: number[]; ys: number[] } {
  const [xs, ys]: [number[], number[]] = [[], []];
  const reach = Math.max(5, share * r);
  const levels = new Float64Array(Math.floor(4 * reach) + 7);
  for (let a = 0; a < ANGLES; a++) {
    const t = (a / ANGLES) * 2 * Math.PI;
    const ux = Math.cos(t);
    const uy = Math.sin(t);
    let best = 0;
    let at: number | null = null;
    // Along the radius every half pixel: the steepest rise or fall over three pixels.
    const from = r - reach - 1.5;
    sampleRay(image, x, y, ux, uy, from, 0.5, levels);
    for (let k = 6; k < levels.length; k++) {
      const steep = Math.abs(levels[k]! - levels[k - 6]!);
      if (steep > best) {
        best = steep;
        at = from + (k - 3) * 0.5;
      }
      if (quiet !== null && best > quiet) break;
    }
    if (at === null || best < (quiet ?? LEAST_STEEP)) continue;
    xs.push(x + at * ux);
    ys.push(y + at * uy);
  }
  return { xs, ys };
}

/** Parts of the rim that are fitted on their own: a ring that is wider on one side would pull a fit of all. */
const PARTS = 12;

/** Where the glass ends in each part of the rim, and how soft its edge is. */
function partsOf(
  image: GreyImage,
  circle: Circle,
  rim: RimProfile,
): { xs: number[]; ys: number[]; blurs: number[] } {
  const found = { xs: [] as number[], ys: [] as number[], blurs: [] as number[] };
  const away = rim.ring?.width ?? 0;
  const reach = Math.max(6, 5 * rim.blur + 3);
  const around: [number, number] = [rim.radius - reach, rim.radius + away + reach];
  for (let part = 0; part < PARTS; part++) {
    const own = fitPart(rimProfile(image, circle, part / PARTS, 1 / PARTS, around), rim);
    if (!own) continue;
    const t = ((part + 0.5) / PARTS) * 2 * Math.PI;
    found.xs.push(circle.x + own.radius * Math.cos(t));
    found.ys.push(circle.y + own.radius * Math.sin(t));
    found.blurs.push(own.blur);
  }
  return found;
}

/** The median over a part of the rim of the level at each distance, every half pixel, by default from 0.85 to 1.15 radii. */
function rimProfile(
  image: GreyImage,
  { x, y, r }: Circle,
  from: number,
  share: number,
  [first, last]: readonly [number, number] = [0.85 * r, 1.15 * r],
): { at: number[]; level: number[] } {
  const at: number[] = [];
  const level: number[] = [];
  const angles = Math.max(24, Math.round(RIM_ANGLES * share));
  const ways = Array.from({ length: angles }, (_, a) => {
    const t = (from + ((a + 0.5) / angles) * share) * 2 * Math.PI;
    return { ux: Math.cos(t), uy: Math.sin(t) };
  });
  const glass = new Float64Array(4);
  const lights = new Float32Array(angles);
  ways.forEach(({ ux, uy }, a) => {
    sampleRay(image, x, y, ux, uy, 0.8 * r, 0.04 * r, glass);
    for (const value of glass) lights[a]! += (value >= 0 ? value : 0) / 4;
  });
  const middle = middleOf(lights.slice());
  // The light's unevenness is taken out by the cladding's own level at each angle.
  const count = Math.floor((last - first) / 0.5) + 1;
  const seen = new Float32Array(count * angles).fill(Number.NaN);
  const ray = new Float64Array(count);
  ways.forEach(({ ux, uy }, a) => {
    if (!(lights[a]! > 1)) return;
    sampleRay(image, x, y, ux, uy, first, 0.5, ray);
    for (let k = 0; k < count; k++) seen[k * angles + a] = (ray[k]! * middle) / lights[a]!;
  });
  const values = new Float32Array(angles);
  for (let k = 0; k < count; k++) {
    let n = 0;
    for (let i = k * angles; i < (k + 1) * angles; i++) {
      const value = seen[i]!;
      if (value >= 0) values[n++] = value;
    }
    if (n < angles / 2) continue;
    at.push(first + 0.5 * k);
    level.push(middleOf(values.subarray(0, n)));
  }
  return { at, level };
}
