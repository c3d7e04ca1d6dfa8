import { type GreyImage, sampleAt } from '../faces/pixels/image.ts';
import { type FiberEdges, middleAt } from './fiber-edges.ts';

/** How the light falls at the outer edges of a fiber, averaged along both of them. Lengths in pixels. */
export interface EdgeSpread {
  /** The edge of the glass lies so far inside of where the light is half. */
  readonly inside: number;
  readonly insideSd: number;
  /** From a tenth to nine tenths of the light. */
  readonly blur: number;
}

/**
 * Share of the light at the geometrical edge of what is opaque: a quarter in coherent light (half-plane diffraction, Born and Wolf 8.7, from
 * memory; the quarter as a threshold for line widths: Nyyssonen 1977), a half in incoherent light or far out of focus. The fringe beside an edge tells
 * which: it rises over the light where light is coherent. Between the two by practice pictures; other lamps and sharpened pictures differ from that by some 0.06.
 */
const AT_EDGE = { coherent: 0.25, blurred: 0.45, fringe: 0.03, sd: 0.06 };
/** Where the light is clipped no fringe is seen, nor where half of it is. */
const CLIPPED = { level: 252, share: 0.42, sd: 0.13 };
const BINS = 4;
const REACH = 0.11;
const COLUMNS = { from: 0.2, to: 3 };

/** The light over both edges: where it passes a share of the way from dark to light, outwards, and how far it goes over the light. */
interface EdgeLevels {
  readonly place: (share: number) => number | null;
  readonly over: number;
}

/** Averages the light over both edges of a fiber. Null where it falls to no clear step. */
export function edgeLevels(image: GreyImage, fiber: FiberEdges): EdgeLevels | null {
  const reach = Math.max(4, REACH * fiber.width);
  const n = Math.ceil(2 * reach * BINS) + 1;
  const sums = new Float64Array(n);
  const counts = new Float64Array(n);
  const slant = Math.hypot(1, fiber.slope);
  const half = fiber.width / 2;
  const inward = fiber.side === 'left' ? -1 : 1;
  for (let d = COLUMNS.from * fiber.width; d < COLUMNS.to * fiber.width; d += 1) {
    const x = Math.round(fiber.origin + inward * d);
    if (x < 1 || x > image.width - 2) break;
    const middle = middleAt(fiber, x);
    for (const sign of [-1, 1]) {
      const edge = middle + sign * half * slant;
      const first = Math.ceil(edge - reach);
      for (let y = first; y <= edge + reach; y++) {
        const level = sampleAt(image, x, y);
        if (level === null) continue;
        const k = Math.round((((y - edge) * sign) / slant + reach) * BINS);
        if (k < 0 || k >= n) continue;
        sums[k]! += level;
        counts[k]! += 1;
      }
    }
  }
  const levels = smoothed(sums.map((s, k) => (counts[k]! > 0 ? s / counts[k]! : Number.NaN)));
  // Light outside of the fringes, dark as the lowest inside.
  const outer = Math.round(0.85 * n);
  let light = 0;
  for (let k = outer; k < n; k++) light += levels[k]!;
  light /= n - outer;
  let dark = Infinity;
  const mid = Math.round(reach * BINS);
  for (let k = Math.round(mid * 0.35); k < mid; k++) dark = Math.min(dark, levels[k]!);
  if (!(light - dark > 8)) return null;
  const place = (share: number): number | null => {
    const level = dark + share * (light - dark);
    for (let k = Math.min(n - 1, mid + Math.round(mid * 0.7)); k > 0; k--) {
      const above = levels[k]!;
      const below = levels[k - 1]!;
      if (above >= level && below < level) return (k - 1 + (level - below) / (above - below)) / BINS;
    }
    return null;
  };
  let over = 0;
  for (let k = mid; k < outer; k++) over = Math.max(over, (levels[k]! - light) / (light - dark));
  return { place, over };
}

/** The spread of the light at the edges. Null where it falls to no clear step. */
export function edgeSpread(image: GreyImage, fiber: FiberEdges): EdgeSpread | null {
  const found = edgeLevels(image, fiber);
  if (!found) return null;
  const { place, over } = found;
  const isClipped = fiber.light > CLIPPED.level;
  const { coherent, blurred, fringe } = AT_EDGE;
  const share = isClipped ? CLIPPED.share : coherent + (blurred - coherent) * Math.exp(-over / fringe);
  const sd = isClipped ? CLIPPED.sd : AT_EDGE.sd;
  const halfway = place(0.5);
  const edge = place(share);
  const low = place(share - sd);
  const high = place(share + sd);
  const ten = place(0.1);
  const ninety = place(0.9);
  if (halfway === null || edge === null || low === null || high === null || ten === null || ninety === null)
    return null;
  return { inside: halfway - edge, insideSd: (high - low) / 2, blur: ninety - ten };
}

/** Means over five bins; an edge that lies level fills only every fourth, and what is empty takes the nearest. */
function smoothed(levels: Float64Array): Float64Array {
  const within = (k: number, reach: number): number => {
    let sum = 0;
    let n = 0;
    for (let j = k - reach; j <= k + reach; j++) {
      const level = levels[j];
      if (level === undefined || !Number.isFinite(level)) continue;
      sum += level;
      n += 1;
    }
    return n === 0 ? Number.NaN : sum / n;
  };
  return levels.map((_, k) => {
    const near = within(k, 2);
    return Number.isFinite(near) ? near : within(k, BINS + 1);
  });
}
