import { enclosingCircle, type FaceFault, type FeatureKind } from '@clear-mark/core';
import { chance, normal, type Rng } from './rng.ts';

type Point = readonly [number, number];

/** What lies on the face, with its true size. Micrometres from the fiber's centre, x right, y down. */
export interface TrueFeature {
  readonly kind: FeatureKind;
  readonly look: FaceFault;
  readonly sizeUm: number;
  readonly xUm: number;
  readonly yUm: number;
  readonly lengthUm?: number;
  /** Levels by which it differs from what is under it. */
  readonly contrast: number;
  readonly nearestUm: number;
  readonly farthestUm: number;
  /** Points of its middle line, for a scratch, crack or lint, or of its outline. */
  readonly points: readonly Point[];
  /** Width of what is drawn along the points; null for an outline that is filled. */
  readonly strokeUm: number | null;
  /** Standard deviation of its own soft edge; 0 for a sharp one. */
  readonly softUm: number;
}

export const CLADDING_RADIUS_UM = 62.5;

/** A grain under a moving film draws far more of a path than a fiber shows: it bends over at least this radius here, um. */
const LEAST_RADIUS_UM = 83;

/** A line from one place to another, bent a little; points along its middle. */
export function randomScratch(rng: Rng, widthUm: number, contrast: number, reachUm = 60): TrueFeature {
  const angle = 2 * Math.PI * rng();
  const lengthUm = 18 + 70 * rng();
  const cx = reachUm * (2 * rng() - 1) * 0.7;
  const cy = reachUm * (2 * rng() - 1) * 0.7;
  const most = 0.5 / LEAST_RADIUS_UM;
  const bend = Math.max(-most, Math.min(most, normal(rng, 0, 0.5 * most)));
  const points = Array.from({ length: 41 }, (_, i) => {
    const s = (i / 40 - 0.5) * lengthUm;
    const a = angle + bend * s;
    return [cx + s * Math.cos(a), cy + s * Math.sin(a)] as const;
  }).filter(([x, y]) => Math.hypot(x, y) < CLADDING_RADIUS_UM * 1.6);
  const radii = points.map(([x, y]) => Math.hypot(x, y));
  const middle = points[Math.floor(points.length / 2)] ?? [cx, cy];
  return {
    kind: 'scratch',
    look: 'scratch',
    sizeUm: widthUm,
    xUm: middle[0],
    yUm: middle[1],
    lengthUm,
    contrast,
    points,
    strokeUm: widthUm,
    softUm: 0,
    nearestUm: Math.max(0, Math.min(...radii) - widthUm / 2),
    farthestUm: Math.max(...radii) + widthUm / 2,
  };
}

/** A pit or speck with an uneven outline, by the diameter of its smallest enclosing circle. */
export function randomDefect(
  rng: Rng,
  sizeUm: number,
  contrast: number,
  at: Point = placeWithin(rng, 58),
  look: FaceFault = 'pit',
): TrueFeature {
  const waves = [2, 3, 5].map((k) => [k, 0.18 * rng(), 2 * Math.PI * rng()] as const);
  const radius = (t: number): number =>
    1 + waves.reduce((sum, [k, a, p]) => sum + a * Math.cos(k * t + p), 0);
  return fromOutline(look, around(radius), sizeUm, contrast, at, look === 'film' ? 0.9 : 0);
}

/** A piece broken out of the cladding's edge: a bite with its round side inward, reaching `depthUm` in from the edge. */
export function randomEdgeChip(rng: Rng, depthUm: number, contrast: number): TrueFeature {
  const t = 2 * Math.PI * rng();
  const half = (0.6 + 0.7 * rng()) * depthUm;
  const waves = [1, 2].map((k) => [k, 0.12 * rng(), 2 * Math.PI * rng()] as const);
  const points: Point[] = [];
  const at = (along: number, r: number): Point => {
    const a = t + along / CLADDING_RADIUS_UM;
    return [r * Math.cos(a), r * Math.sin(a)];
  };
  for (let i = 0; i <= 24; i++) {
    const s = -1 + i / 12;
    const uneven = 1 + waves.reduce((sum, [k, a, p]) => sum + a * Math.cos(3 * k * s + p), 0);
    points.push(at(half * s, CLADDING_RADIUS_UM - depthUm * Math.sqrt(Math.max(0, 1 - s * s)) * uneven));
  }
  for (let i = 24; i >= 0; i--) points.push(at(half * (-1 + i / 12), CLADDING_RADIUS_UM));
  return measured('edge_chip', points, contrast, null, 0);
}

/** Jagged: short straight pieces that turn this way and that. */
export function randomCrack(
  rng: Rng,
  lengthUm: number,
  contrast: number,
  at = placeWithin(rng, 45),
): TrueFeature {
  const points: Point[] = [at];
  let way = 2 * Math.PI * rng();
  let turn = chance(rng, 0.5) ? 1 : -1;
  for (let left = lengthUm; left > 0;) {
    const step = Math.min(left, 2 + 3.5 * rng());
    const [x, y] = points[points.length - 1]!;
    const next: Point = [x + step * Math.cos(way), y + step * Math.sin(way)];
    if (Math.hypot(...next) > 58) break;
    points.push(next);
    way += turn * (0.6 + 0.7 * rng());
    turn = -turn;
    left -= step;
  }
  if (points.length < 2) points.push([at[0] + 2, at[1]]);
  return measured('crack', points, contrast, 0.8 + 0.9 * rng(), 0);
}

/** A fiber of cloth: curled, thicker than a scratch. */
export function randomLint(
  rng: Rng,
  lengthUm: number,
  contrast: number,
  at = placeWithin(rng, 45),
): TrueFeature {
  const points: Point[] = [at];
  let way = 2 * Math.PI * rng();
  let curl = (chance(rng, 0.5) ? 1 : -1) * (0.12 + 0.12 * rng());
  for (let s = 0; s < lengthUm; s += 1) {
    const [x, y] = points[points.length - 1]!;
    const next: Point = [x + Math.cos(way), y + Math.sin(way)];
    if (Math.hypot(...next) > 58) break;
    points.push(next);
    way += curl;
    if (chance(rng, 0.06)) curl = -curl;
  }
  if (points.length < 2) points.push([at[0] + 1, at[1]]);
  return measured('lint', points, contrast, 1.6 + 1.4 * rng(), 0);
}

/** Glass broken under the surface: a broad dark region that reaches the edge of the cladding. */
export function randomFracture(rng: Rng, contrast: number): TrueFeature {
  const t = 2 * Math.PI * rng();
  const depth = 14 + 22 * rng();
  const half = 0.35 + 0.4 * rng();
  const points: Point[] = [];
  for (let i = 0; i <= 30; i++) {
    const s = -1 + i / 15;
    const jag = 1 + 0.16 * (2 * rng() - 1);
    const r = CLADDING_RADIUS_UM - depth * Math.sqrt(Math.max(0, 1 - s * s)) * jag;
    points.push([r * Math.cos(t + half * s), r * Math.sin(t + half * s)]);
  }
  for (let i = 30; i >= 0; i--) {
    const a = t + half * (-1 + i / 15);
    points.push([CLADDING_RADIUS_UM * Math.cos(a), CLADDING_RADIUS_UM * Math.sin(a)]);
  }
  return measured('fracture', points, contrast, null, 0);
}

export function placeWithin(rng: Rng, radiusUm: number, fromUm = 0): Point {
  const r = Math.sqrt(fromUm ** 2 + (radiusUm ** 2 - fromUm ** 2) * rng());
  const t = 2 * Math.PI * rng();
  return [r * Math.cos(t), r * Math.sin(t)];
}

/** An outline about the origin, scaled to a size and put at a place. */
export function fromOutline(
  look: FaceFault,
  outline: readonly Point[],
  sizeUm: number,
  contrast: number,
  [cx, cy]: Point,
  softUm = 0,
): TrueFeature {
  const circle = enclosingCircle(outline)!;
  const scale = sizeUm / (2 * circle.r);
  const points = outline.map(([x, y]) => [cx + (x - circle.x) * scale, cy + (y - circle.y) * scale] as const);
  return measured(look, points, contrast, null, softUm);
}

const around = (radius: (t: number) => number): Point[] =>
  Array.from({ length: 48 }, (_, i) => {
    const t = (i / 48) * 2 * Math.PI;
    return [radius(t) * Math.cos(t), radius(t) * Math.sin(t)] as const;
  });

/** A defect with its size taken from what is drawn. */
function measured(
  look: FaceFault,
  points: readonly Point[],
  contrast: number,
  strokeUm: number | null,
  softUm: number,
): TrueFeature {
  const circle = enclosingCircle(points)!;
  const half = (strokeUm ?? 0) / 2;
  const radii = points.map(([x, y]) => Math.hypot(x, y));
  const covered = strokeUm === null && contains(points, 0, 0);
  return {
    kind: 'defect',
    look,
    sizeUm: 2 * (circle.r + half),
    xUm: circle.x,
    yUm: circle.y,
    contrast,
    points,
    strokeUm,
    softUm,
    nearestUm: covered ? 0 : Math.max(0, Math.min(...radii) - half),
    farthestUm: Math.max(...radii) + half,
  };
}

/** Where an outline crosses the level line at `y`, in no order. */
export function crossingsAt(outline: readonly Point[], y: number): number[] {
  const found: number[] = [];
  for (let i = 0; i < outline.length; i++) {
    const [x1, y1] = outline[i]!;
    const [x2, y2] = outline[i + 1 === outline.length ? 0 : i + 1]!;
    if (y1 > y !== y2 > y) found.push(((x2 - x1) * (y - y1)) / (y2 - y1) + x1);
  }
  return found;
}

/** Whether a place lies inside of an outline: an odd number of its crossings lies to the right. */
export const contains = (outline: readonly Point[], x: number, y: number): boolean =>
  isInside(crossingsAt(outline, y), x);

export function isInside(crossings: readonly number[], x: number): boolean {
  let inside = false;
  for (const at of crossings) if (x < at) inside = !inside;
  return inside;
}
