import { FACE_SETTINGS, type FaceSettings } from '../settings.ts';
import type { Circle } from '../pixels/enclosing-circle.ts';
import { fitCircle } from './fit-circle.ts';
import { type GreyImage, sampleAt, shrink } from '../pixels/image.ts';
import { middleOf, selectNth } from '../pixels/quantile.ts';
import { fitRimProfile, type RimProfile } from './rim-profile.ts';

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

const COARSE_WIDTH = 200;
const ANGLES = 360;
const RIM_ANGLES = 240;

/**
 * Finds the cladding circle: a vote of the edges of a coarse copy for its centre, the radius from the edges round that
 * centre, then the edge at 360 angles of the picture itself and a circle through them that a chipped or dirty edge does
 * not pull. A thin dark adhesive ring lies outside the cladding: the edge is its inner side, found by a model of the rim.
 * `cut` when the circle is not wholly in the picture, `none` when there is no circle.
 */
export function findCladding(image: GreyImage, settings: FaceSettings = FACE_SETTINGS): CladdingFound {
  const guess = vote(image);
  if (!guess) return { state: 'none' };
  let circle = guess;
  for (let round = 0; round < 3; round++) {
    const edge = edgePoints(image, circle);
    if (edge.xs.length < settings.cladding.leastSeen * ANGLES)
      return { state: isCut(image, circle) ? 'cut' : 'none' };
    const fitted = fitCircle(edge.xs, edge.ys, circle);
    if (!fitted || fitted.spread > 0.03 * fitted.circle.r) return { state: 'none' };
    circle = fitted.circle;
  }
  if (isCut(image, circle)) return { state: 'cut' };
  const rim = fitRimProfile(rimProfile(image, circle, 0, 1), circle.r);
  if (!rim) return { state: 'none' };
  const parts = partsOf(image, circle, rim);
  const through = fitCircle(parts.xs, parts.ys, { ...circle, r: rim.radius });
  if (through && Math.abs(through.circle.r / rim.radius - 1) < 0.03) {
    const { x, y, r } = through.circle;
    const cladding = { circle: { x, y, r }, blurPx: middleOf(Float32Array.from(parts.blurs)) };
    if (isCut(image, cladding.circle)) return { state: 'cut' };
    return { state: 'found', cladding: { ...cladding, ringPx: rim.ring?.width ?? 0, level: rim.inside } };
  }
  return {
    state: 'found',
    cladding: { circle: { ...circle, r: rim.radius }, blurPx: rim.blur, ringPx: rim.ring?.width ?? 0, level: rim.inside },
  };
}

const isCut = ({ width, height }: GreyImage, { x, y, r }: Circle): boolean =>
  x - r < 1 || y - r < 1 || x + r > width - 2 || y + r > height - 2;

/** A first circle from a coarse copy: edges vote along their gradient. */
function vote(image: GreyImage): Circle | null {
  const factor = Math.max(1, Math.round(image.width / COARSE_WIDTH));
  const small = shrink(image, factor);
  const { width: w, height: h } = small;
  if (w < 24 || h < 24) return null;
  // Grain of the ferrule makes edges everywhere; the rim is longer than any of them.
  const level = boxMean(boxMean(small.level, w, h), w, h);
  const gx = new Float32Array(w * h);
  const gy = new Float32Array(w * h);
  const size = new Float32Array(w * h);
  for (let y = 1; y < h - 1; y++) {
    for (let x = 1; x < w - 1; x++) {
      const i = y * w + x;
      const up = i - w;
      const down = i + w;
      const left = level[up - 1]! + level[down - 1]!;
      const right = level[up + 1]! + level[down + 1]!;
      gx[i] = right - left + 2 * (level[i + 1]! - level[i - 1]!);
      const above = level[up - 1]! + level[up + 1]!;
      const below = level[down - 1]! + level[down + 1]!;
      gy[i] = below - above + 2 * (level[down]! - level[up]!);
      size[i] = Math.sqrt(gx[i]! * gx[i]! + gy[i]! * gy[i]!);
    }
  }
  const cut = Math.max(4, selectNth(size.slice(), Math.floor(size.length * 0.94)));
  const least = 0.1 * Math.min(w, h);
  const most = 0.56 * Math.min(w, h);
  const votes = new Float32Array(w * h);
  for (let y = 1; y < h - 1; y++) {
    for (let x = 1; x < w - 1; x++) {
      const i = y * w + x;
      if (size[i]! < cut) continue;
      const ux = gx[i]! / size[i]!;
      const uy = gy[i]! / size[i]!;
      for (let way = -1; way <= 1; way += 2) {
        for (let r = least; r <= most; r += 2) {
          const cx = Math.floor(x + way * r * ux + 0.5);
          const cy = Math.floor(y + way * r * uy + 0.5);
          if (cx < 0 || cy < 0 || cx >= w || cy >= h) break;
          // A larger circle has more edge: each radius gets the same say.
          votes[cy * w + cx]! += 1 / r;
        }
      }
    }
  }
  const soft = boxSum(votes, w, h, 2);
  let best = 0;
  for (let i = 0; i < soft.length; i++) if (soft[i]! > soft[best]!) best = i;
  const cx = best % w;
  const cy = Math.floor(best / w);
  const r = radiusRound(size, gx, gy, w, h, cx, cy, cut, least, most);
  if (r === null) return null;
  const middle = (factor - 1) / 2;
  return { x: cx * factor + middle, y: cy * factor + middle, r: r * factor };
}

/** The radius round a centre at which most of the circle is edge. */
function radiusRound(
  size: Float32Array,
  gx: Float32Array,
  gy: Float32Array,
  w: number,
  h: number,
  cx: number,
  cy: number,
  cut: number,
  least: number,
  most: number,
): number | null {
  // Round the rim the light goes up, or down, all the way; chance edges point either way.
  const seen = Array.from({ length: Math.ceil(most) + 3 }, () => new Float32Array(72));
  for (let y = 1; y < h - 1; y++) {
    for (let x = 1; x < w - 1; x++) {
      const i = y * w + x;
      if (size[i]! < cut) continue;
      const dx = x - cx;
      const dy = y - cy;
      const d = Math.hypot(dx, dy);
      if (d < least || d > most) continue;
      const along = (dx * gx[i]! + dy * gy[i]!) / d;
      if (Math.abs(along) < 0.85 * size[i]!) continue;
      seen[Math.round(d)]![Math.floor(((Math.atan2(dy, dx) + Math.PI) / (2 * Math.PI)) * 71.99)]! += along;
    }
  }
  const around = (r: number): number => {
    let sum = 0;
    for (let k = 0; k < 72; k++) sum += Math.sign(seen[r]![k]! + seen[r + 1]![k]!);
    return Math.abs(sum) / 72;
  };
  const shares = Array.from({ length: Math.floor(most) - Math.ceil(least) + 1 }, (_, i) => ({
    r: Math.ceil(least) + i,
    share: around(Math.ceil(least) + i),
  }));
  const fullest = Math.max(...shares.map((s) => s.share));
  if (fullest < 0.5) return null;
  // A multimode core is a circle as well: of those that are seen about as fully, the cladding is the outermost.
  const full = shares.filter((s) => s.share >= Math.max(0.5, 0.6 * fullest));
  const outermost = full[full.length - 1]!;
  return full.filter((s) => s.r > outermost.r - 3).reduce((a, b) => (b.share > a.share ? b : a)).r;
}

/** The mean of nine pixels; those at the edge stay as they are. */
function boxMean(from: Float32Array, w: number, h: number): Float32Array {
  const out = from.slice();
  for (let y = 1; y < h - 1; y++) {
    for (let x = 1, i = y * w + 1; x < w - 1; x++, i++) {
      const above = from[i - w - 1]! + from[i - w]! + from[i - w + 1]!;
      const below = from[i + w - 1]! + from[i + w]! + from[i + w + 1]!;
      out[i] = (above + from[i - 1]! + from[i]! + from[i + 1]! + below) / 9;
    }
  }
  return out;
}

/** The sum of the pixels within `reach` rows and columns, 0 where these leave the picture. */
function boxSum(from: Float32Array, w: number, h: number, reach: number): Float32Array {
  const rows = new Float32Array(from.length);
  for (let y = 0; y < h; y++) {
    let sum = 0;
    for (let x = 0; x < w; x++) {
      sum += from[y * w + x]!;
      if (x > 2 * reach) sum -= from[y * w + x - 2 * reach - 1]!;
      if (x >= 2 * reach) rows[y * w + x - reach] = sum;
    }
  }
  const out = new Float32Array(from.length);
  for (let y = reach; y < h - reach; y++) {
    for (let dy = -reach; dy <= reach; dy++) {
      for (let x = 0; x < w; x++) out[y * w + x]! += rows[(y + dy) * w + x]!;
    }
  }
  return out;
}

/** Where the rim is at each angle: the steepest place within a few percent of the circle. */
function edgePoints(image: GreyImage, { x, y, r }: Circle): { xs: number[]; ys: number[] } {
  const [xs, ys]: [number[], number[]] = [[], []];
  const reach = Math.max(5, 0.08 * r);
  const levels = new Float64Array(Math.floor(4 * reach) + 7);
  for (let a = 0; a < ANGLES; a++) {
    const t = (a / ANGLES) * 2 * Math.PI;
    const ux = Math.cos(t);
    const uy = Math.sin(t);
    let best = 0;
    let at: number | null = null;
    // Along the radius every half pixel: the steepest rise or fall over three pixels.
    const from = r - reach - 1.5;
    for (let k = 0; k < levels.length; k++) {
      const d = from + k * 0.5;
      levels[k] = sampleAt(image, x + d * ux, y + d * uy) ?? NaN;
    }
    for (let k = 6; k < levels.length; k++) {
      const steep = Math.abs(levels[k]! - levels[k - 6]!);
      if (steep > best) [best, at] = [steep, from + (k - 3) * 0.5];
    }
    if (at === null || best < 4) continue;
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
  for (let part = 0; part < PARTS; part++) {
    const own = fitRimProfile(rimProfile(image, circle, part / PARTS, 1 / PARTS), circle.r, rim);
    if (!own) continue;
    const t = ((part + 0.5) / PARTS) * 2 * Math.PI;
    found.xs.push(circle.x + own.radius * Math.cos(t));
    found.ys.push(circle.y + own.radius * Math.sin(t));
    found.blurs.push(own.blur);
  }
  return found;
}

/** The median over a part of the rim of the level at each distance, every half pixel from 0.85 to 1.15 radii. */
function rimProfile(
  image: GreyImage,
  { x, y, r }: Circle,
  from: number,
  share: number,
): { at: number[]; level: number[] } {
  const at: number[] = [];
  const level: number[] = [];
  const angles = Math.max(24, Math.round(RIM_ANGLES * share));
  const ways = Array.from({ length: angles }, (_, a) => {
    const t = (from + ((a + 0.5) / angles) * share) * 2 * Math.PI;
    return { ux: Math.cos(t), uy: Math.sin(t) };
  });
  const lights = Float32Array.from(ways, ({ ux, uy }) => {
    let sum = 0;
    for (const share of [0.8, 0.84, 0.88, 0.92])
      sum += sampleAt(image, x + share * r * ux, y + share * r * uy) ?? 0;
    return sum / 4;
  });
  const middle = middleOf(lights.slice());
  const values = new Float32Array(angles);
  for (let d = 0.85 * r; d <= 1.15 * r; d += 0.5) {
    let n = 0;
    for (let a = 0; a < angles; a++) {
      const value = sampleAt(image, x + d * ways[a]!.ux, y + d * ways[a]!.uy);
      // The light's unevenness is taken out by the cladding's own level at that angle.
      if (value !== null && lights[a]! > 1) values[n++] = (value * middle) / lights[a]!;
    }
    if (n < angles / 2) continue;
    at.push(d);
    level.push(middleOf(values.subarray(0, n)));
  }
  return { at, level };
}
