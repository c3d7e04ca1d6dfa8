import { enclosingCircle } from './enclosing-circle.ts';
import type { FlatFace } from './flatten.ts';
import { smooth, spreadByDistance, spreadOf } from './smooth.ts';
import { findLines } from './find-lines.ts';
import type { FoundLine } from './found-line.ts';
import { placeBy } from './join-pieces.ts';

/** A feature as it lies in the square of a flattened face; pixels. */
export interface FoundFeature {
  readonly kind: 'scratch' | 'defect';
  readonly x: number;
  readonly y: number;
  /** Width of a scratch, enclosing diameter of a defect. */
  readonly size: number;
  readonly length: number;
  readonly area: number;
  /** Difference to its surroundings over the noise. */
  readonly contrast: number;
  readonly nearest: number;
  readonly farthest: number;
}

/** Seeds stand this many spreads above the noise of their scale. */
const SEED = 5;
/** A seed grows to where it falls under this share of its own height. */
const GROWS_TO = 0.5;
const LEAST_PX = 4;

/**
 * Everything that stands out of a flattened cladding: lines first, since a line broken into pieces would look like a
 * row of defects, then spots of three scales, each grown to half its height and measured by its smallest enclosing
 * circle. A long thin spot is a scratch.
 */
export function findFeatures(face: FlatFace, blurPx: number): readonly FoundFeature[] {
  const fine = smooth(face.level, face.side, 0.7);
  const spread = spreadOf(fine, face.inside);
  const taken = new Uint8Array(fine.length);
  const features: FoundFeature[] = [];
  // Plain spots first: to the search for lines they would be short wide lines with shadows beside them.
  const free = Uint8Array.from(face.inside);
  for (const { spot, found } of spotsOf(face, fine, spread, taken, [4, 2])) {
    if (found.kind !== 'defect' || found.area < PLAIN_PX || found.size ** 2 > 3 * found.area) continue;
    features.push(found);
    spot.forEach((i) => (taken[i] = 1));
    keepOff(free, face.side, spot);
  }
  const lines = findLines(face, free, blurPx);
  for (const line of lines) {
    markLine(taken, face.side, line);
    features.push(scratchOf(face, line, spread));
  }
  for (const { spot, found } of spotsOf(face, fine, spread, taken, [4, 2, 1])) {
    spot.forEach((i) => (taken[i] = 1));
    const sign = Math.sign(fine[spot[0]!]!);
    if (!lines.some((line) => belongsTo(line, face.side, found, sign, spread))) features.push(found);
  }
  return features;
}

/** A rest of a line that its search left: on it or on its continuation, and no higher than a line's own height varies. */
function belongsTo(line: FoundLine, side: number, spot: FoundFeature, sign: number, spread: number): boolean {
  if (sign !== line.sign || spot.contrast * spread > 1.8 * line.height) return false;
  const { aside, beyond } = placeBy(line, side, spot.x, spot.y);
  return aside < 6 + line.width / 2 && beyond < 45;
}

/** Pixels of a spot that is surely none of a line. */
const PLAIN_PX = 40;
const KEEP_OFF_PX = 9;

function keepOff(free: Uint8Array, side: number, spot: readonly number[]): void {
  for (const i of spot) {
    for (let dy = -KEEP_OFF_PX; dy <= KEEP_OFF_PX; dy += 3) {
      for (let dx = -KEEP_OFF_PX; dx <= KEEP_OFF_PX; dx += 3) {
        const at = i + dy * side + dx;
        if (at >= 0 && at < free.length) free[at] = 0;
      }
    }
  }
}

/** A line with what blur spreads beside it. */
function markLine(taken: Uint8Array, side: number, line: FoundLine): void {
  const reach = Math.ceil(line.width / 2) + 3;
  for (const i of line.pixels) {
    for (let dy = -reach; dy <= reach; dy++) {
      for (let dx = -reach; dx <= reach; dx++) {
        const at = i + dy * side + dx;
        if (at >= 0 && at < taken.length) taken[at] = 1;
      }
    }
  }
}

interface Spot {
  readonly spot: readonly number[];
  readonly found: FoundFeature;
}

/** Spots of the given scales that are not taken yet, each pixel once. */
function spotsOf(
  face: FlatFace,
  fine: Float32Array,
  spread: number,
  before: Uint8Array,
  scales: readonly number[],
): readonly Spot[] {
  const taken = Uint8Array.from(before);
  const spots: Spot[] = [];
  for (const scale of scales) {
    const soft = scale === 1 ? fine : smooth(face.level, face.side, scale);
    const noise = spreadByDistance(soft, face);
    const seeds: number[] = [];
    for (let i = 0; i < soft.length; i++) {
      if (
        face.inside[i] &&
        !taken[i] &&
        Math.abs(soft[i]!) > SEED * noise[Math.floor(face.distance[i]!)]! &&
        isPeak(soft, face.side, i)
      )
        seeds.push(i);
    }
    seeds.sort((a, b) => Math.abs(soft[b]!) - Math.abs(soft[a]!));
    for (const seed of seeds) {
      if (taken[seed]) continue;
      const spot = grow(face, fine, seed, spread, taken);
      if (!spot || spot.length < LEAST_PX) continue;
      skirtOf(face, fine, spot, spread, taken).forEach((i) => (taken[i] = 1));
      const found = spotOf(face, fine, spot, spread);
      if (found) spots.push({ spot, found });
    }
  }
  return spots;
}

function isPeak(level: Float32Array, side: number, i: number): boolean {
  const v = Math.abs(level[i]!);
  for (const d of [-1, 1, -side, side, -side - 1, -side + 1, side - 1, side + 1]) {
    if (Math.abs(level[i + d] ?? 0) > v) return false;
  }
  return true;
}

/** The pixels round a seed, of its sign, down to half of the highest among them. */
function grow(
  face: FlatFace,
  fine: Float32Array,
  seed: number,
  spread: number,
  taken: Uint8Array,
): number[] | null {
  const { side, inside } = face;
  const sign = Math.sign(fine[seed]!);
  // The peak of the fine picture near the seed of a coarser one.
  let peak = 0;
  const [sx, sy] = [seed % side, Math.floor(seed / side)];
  for (let dy = -3; dy <= 3; dy++) {
    for (let dx = -3; dx <= 3; dx++) {
      const at = (sy + dy) * side + sx + dx;
      if (at >= 0 && at < fine.length && Math.abs(dx) < side) peak = Math.max(peak, sign * fine[at]!);
    }
  }
  if (peak < 2.5 * spread) return null;
  const least = Math.max(2.2 * spread, GROWS_TO * peak);
  const queue = [seed];
  const seen = new Set([seed]);
  const pixels: number[] = [];
  while (queue.length > 0) {
    const i = queue.pop()!;
    if (i !== seed && sign * fine[i]! < least) continue;
    pixels.push(i);
    if (pixels.length > 40_000) return null;
    for (const d of [-1, 1, -side, side]) {
      const next = i + d;
      if (next < 0 || next >= fine.length || seen.has(next) || !inside[next] || taken[next]) continue;
      seen.add(next);
      queue.push(next);
    }
  }
  return pixels.filter((i) => sign * fine[i]! >= least);
}

/** A spot with what falls off round it, in which no second one is looked for. */
function skirtOf(
  face: FlatFace,
  fine: Float32Array,
  spot: readonly number[],
  spread: number,
  taken: Uint8Array,
): number[] {
  const { side, inside } = face;
  const sign = Math.sign(fine[spot[0]!]!);
  const peak = Math.max(...spot.map((i) => sign * fine[i]!));
  const least = Math.max(1.5 * spread, 0.15 * peak);
  const seen = new Set(spot);
  const queue = [...spot];
  while (queue.length > 0) {
    const i = queue.pop()!;
    for (const d of [-1, 1, -side, side]) {
      const next = i + d;
      if (next < 0 || next >= fine.length || seen.has(next) || !inside[next] || taken[next]) continue;
      if (sign * fine[next]! < least) continue;
      seen.add(next);
      queue.push(next);
    }
  }
  return [...seen];
}

function spotOf(
  face: FlatFace,
  fine: Float32Array,
  pixels: readonly number[],
  spread: number,
): FoundFeature | null {
  const { side, distance } = face;
  const inSpot = new Set(pixels);
  const rim = pixels.filter((i) => [-1, 1, -side, side].some((d) => !inSpot.has(i + d)));
  const circle = enclosingCircle(rim.map((i) => [i % side, Math.floor(i / side)] as const));
  if (!circle) return null;
  const peak = Math.max(...pixels.map((i) => Math.abs(fine[i]!)));
  const shape = elongation(pixels, side);
  // The outline runs through the middles of its pixels: half a pixel is missing on either side.
  const size = 2 * circle.r + 1;
  const distances = pixels.map((i) => distance[i]!);
  const base = {
    ...{ x: circle.x, y: circle.y, area: pixels.length, contrast: peak / spread },
    nearest: Math.max(0, Math.min(...distances) - 0.5),
    farthest: Math.max(...distances) + 0.5,
  };
  if (shape.length > 5 * shape.width && shape.length > 14) {
    return { ...base, kind: 'scratch', size: shape.width, length: shape.length };
  }
  return { ...base, kind: 'defect', size, length: size };
}

/** Length and width of an ellipse with the same second moments, times the square root of three: those of a bar. */
function elongation(pixels: readonly number[], side: number): { length: number; width: number } {
  let [sx, sy] = [0, 0];
  for (const i of pixels) {
    sx += i % side;
    sy += Math.floor(i / side);
  }
  const [mx, my] = [sx / pixels.length, sy / pixels.length];
  let [xx, yy, xy] = [1 / 12, 1 / 12, 0];
  for (const i of pixels) {
    const [dx, dy] = [(i % side) - mx, Math.floor(i / side) - my];
    xx += (dx * dx) / pixels.length;
    yy += (dy * dy) / pixels.length;
    xy += (dx * dy) / pixels.length;
  }
  const half = Math.hypot((xx - yy) / 2, xy);
  const big = (xx + yy) / 2 + half;
  const small = Math.max(1 / 12, (xx + yy) / 2 - half);
  return { length: 2 * Math.sqrt(3 * big), width: 2 * Math.sqrt(3 * small) };
}

function scratchOf(face: FlatFace, line: FoundLine, spread: number): FoundFeature {
  const middle = line.pixels[Math.floor(line.pixels.length / 2)]!;
  const distances = line.pixels.map((i) => face.distance[i]!);
  return {
    kind: 'scratch',
    x: middle % face.side,
    y: Math.floor(middle / face.side),
    size: line.width,
    length: line.length,
    area: line.width * line.length,
    contrast: line.height / spread,
    nearest: Math.max(0, Math.min(...distances) - line.width / 2),
    farthest: Math.max(...distances) + line.width / 2,
  };
}
