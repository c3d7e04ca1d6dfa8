import { enclosingCircle } from '../pixels/enclosing-circle.ts';

/** Where a width is read, a share of the height: a little under a half, since noise lifts the highest pixel. */
const HALF = 0.48;
/** Diameters of discs in spreads of the blur, and how wide each is seen at half of its own height; the same unit. */
const STEP = 0.25;
const SEEN = seenWidths(12);
/** A disc so many spreads wide is seen as wide as it is. */
const PLAIN = (SEEN.length - 1) * STEP;

/**
 * The diameter of a disc that is seen `seen` wide at half its height through a Gaussian blur of standard deviation `blur`, in
 * the unit of both. What is no wider than the blur itself is 0. Accuracy: 1 % of the blur where the disc is wider than it.
 */
export function diameterBehindBlur(seen: number, blur: number): number {
  if (!(blur > 0)) return seen;
  const w = seen / blur;
  if (w >= SEEN[SEEN.length - 1]!) return seen;
  for (let k = 1; k < SEEN.length; k++) {
    if (SEEN[k]! < w) continue;
    const a = SEEN[k - 1]!;
    const share = w <= a ? 0 : (w - a) / (SEEN[k]! - a);
    return (k - 1 + share) * STEP * blur;
  }
  return seen;
}

/** So wide a spot, in spreads of the blur, that nothing is gained by the places where it crosses half its height. */
export const isPlainlySeen = (seen: number, blur: number): boolean => seen > PLAIN * blur;

function seenWidths(most: number): number[] {
  const widths: number[] = [];
  for (let d = 0; d <= most; d += STEP) {
    const level = (at: number): number => (d === 0 ? Math.exp((-at * at) / 2) : discAt(at, d / 2));
    const half = HALF * level(0);
    let low = 0;
    let high = most;
    for (let k = 0; k < 40; k++) {
      const middle = (low + high) / 2;
      if (level(middle) > half) low = middle;
      else high = middle;
    }
    widths.push(2 * low);
  }
  return widths;
}

/** A disc of radius `r` blurred by a Gaussian of spread 1, at a distance from its middle: the mean over the ring of sources. */
function discAt(at: number, r: number): number {
  const steps = 60;
  let sum = 0;
  for (let k = 0; k < steps; k++) {
    const from = ((k + 0.5) / steps) * r;
    sum += from * ringShare(at, from);
  }
  return (sum * r) / steps;
}

/** exp(-(a^2 + b^2) / 2) I0(ab), by the mean of exp(-d^2 / 2) over the angles. */
function ringShare(a: number, b: number): number {
  const steps = 24;
  let sum = 0;
  for (let k = 0; k < steps; k++) {
    const cos = Math.cos(((k + 0.5) / steps) * Math.PI);
    sum += Math.exp(-(a * a + b * b - 2 * a * b * cos) / 2);
  }
  return sum / steps;
}

const RAYS = 24;
const ALONG = 0.25;

/**
 * How wide a small spot is at half of its height, between pixels: in the direction in which it is widest but for a fifth of
 * them, which noise on its edge hardly moves, and across all of it. Null where it does not fall to half within `reach`. `level` is a
 * square of levels, `x` and `y` the spot's middle; pixels.
 */
export function halfHeightWidth(
  level: Float32Array,
  side: number,
  x: number,
  y: number,
  sign: number,
  reach: number,
): { readonly wide: number; readonly across: number } | null {
  const at = (px: number, py: number): number => {
    const x0 = Math.floor(px);
    const y0 = Math.floor(py);
    if (x0 < 0 || y0 < 0 || x0 >= side - 1 || y0 >= side - 1) return 0;
    const fx = px - x0;
    const fy = py - y0;
    const i = y0 * side + x0;
    const top = level[i]! * (1 - fx) + level[i + 1]! * fx;
    const bottom = level[i + side]! * (1 - fx) + level[i + side + 1]! * fx;
    return sign * (top * (1 - fy) + bottom * fy);
  };
  // The mean of the middle: its highest pixel is lifted by noise.
  const peak = (2 * at(x, y) + at(x - 0.4, y) + at(x + 0.4, y) + at(x, y - 0.4) + at(x, y + 0.4)) / 6;
  if (!(peak > 0)) return null;
  const half = HALF * peak;
  const arms: number[] = [];
  const points: [number, number][] = [];
  for (let k = 0; k < RAYS; k++) {
    const t = (k / RAYS) * 2 * Math.PI;
    const ux = Math.cos(t);
    const uy = Math.sin(t);
    let before = peak;
    for (let d = ALONG; ; d += ALONG) {
      if (d > reach) return null;
      const now = at(x + d * ux, y + d * uy);
      if (now <= half) {
        const cross = d - ALONG * ((half - now) / Math.max(1e-9, before - now));
        arms.push(cross);
        points.push([x + cross * ux, y + cross * uy]);
        break;
      }
      before = now;
    }
  }
  const widths = Array.from({ length: RAYS / 2 }, (_, k) => arms[k]! + arms[k + RAYS / 2]!);
  widths.sort((a, b) => a - b);
  return { wide: widths[Math.floor(0.8 * widths.length)]!, across: 2 * enclosingCircle(points)!.r };
}
