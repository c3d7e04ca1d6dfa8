import type { Circle } from '../pixels/enclosing-circle.ts';
import { type GreyImage, shrink } from '../pixels/image.ts';
import { selectNth } from '../pixels/quantile.ts';
import { roughnessOf } from './roughness.ts';

/** The copies that are voted on are about so wide, one after the other: the grain of a ferrule is lost in the coarser; px. */
const COARSE_WIDTHS = [300, 160, 100];

/** A first circle, and whether it was found by where the grain of the ferrule ends instead of by its edge. */
export interface VotedCircle {
  readonly circle: Circle;
  readonly byGrain: boolean;
}

/**
 * A first circle from a coarse copy: edges vote along their gradient for the centre, and the radius is the outermost at which
 * most of a circle round it is edge. Within a few of the copy's pixels; null where there is none.
 */
export function voteForCircle(image: GreyImage): VotedCircle | null {
  let before = 0;
  for (const width of COARSE_WIDTHS) {
    const factor = Math.max(1, Math.round(image.width / width));
    if (factor === before) continue;
    before = factor;
    const found = voteAt(image, factor);
    if (found) return { circle: found, byGrain: false };
  }
  // Where glass and ferrule are as bright, and the grain stands out more than the rim, its end is the rim.
  const { map, factor } = roughnessOf(image);
  const found = voteAt(map, 1);
  if (!found) return null;
  const middle = (factor - 1) / 2;
  // The map is so soft that the roughness seems to begin within the glass.
  const r = (found.r + ROUGH_BEGINS_WITHIN) * factor;
  const circle = { x: found.x * factor + middle, y: found.y * factor + middle, r };
  return { circle, byGrain: true };
}
const ROUGH_BEGINS_WITHIN = 1.5;

/** Radii that edges vote for are so far apart, px of the coarse copy; house. */
const RADIUS_STEP = 2;

function voteAt(image: GreyImage, factor: number): Circle | null {
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
  const least = 0.065 * Math.min(w, h);
  const most = 0.56 * Math.min(w, h);
  // A larger circle has more edge: each radius gets the same say.
  const says = Float32Array.from(
    { length: Math.floor((most - least) / RADIUS_STEP) + 1 },
    (_, k) => 1 / (least + k * RADIUS_STEP),
  );
  const votes = new Float32Array(w * h);
  for (let y = 1; y < h - 1; y++) {
    for (let x = 1; x < w - 1; x++) {
      const i = y * w + x;
      if (size[i]! < cut) continue;
      for (let way = -1; way <= 1; way += 2) {
        const ux = (way * gx[i]!) / size[i]!;
        const uy = (way * gy[i]!) / size[i]!;
        let cx = x + least * ux + 0.5;
        let cy = y + least * uy + 0.5;
        for (let k = 0; k < says.length && cx >= 0 && cy >= 0 && cx < w && cy < h; k++) {
          votes[Math.trunc(cy) * w + Math.trunc(cx)]! += says[k]!;
          cx += RADIUS_STEP * ux;
          cy += RADIUS_STEP * uy;
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
