import { enclosingCircle } from '../pixels/enclosing-circle.ts';
import { hullOf } from '../pixels/hull.ts';
import { selectNth } from '../pixels/quantile.ts';
import type { Spot, SpotGround } from './spot.ts';

/** The pixels of a spot that have a neighbour outside of it. */
export function edgeOf({ pixels }: Pick<Spot, 'pixels'>, side: number): number[] {
  const inSpot = new Set(pixels);
  return pixels.filter((i) => [-1, 1, -side, side].some((d) => !inSpot.has(i + d)));
}

/** Smallest enclosing circle of a spot in pixels: through the middles of its pixels, and half a pixel on either side. */
export function circleOf(spot: Pick<Spot, 'pixels'>, side: number): { x: number; y: number; size: number } {
  const corners = hullOf(edgeOf(spot, side).map((i) => [i % side, Math.floor(i / side)] as const));
  const circle = enclosingCircle(corners)!;
  return { x: circle.x, y: circle.y, size: 2 * circle.r + 1 };
}

/**
 * Smallest circle round the places where a spot crosses about half of its plateau, the height that a fifth of its pixels exceed;
 * between pixels, so that neither the grid nor the highest grain makes it larger. Pixels of the square.
 */
export function outlineCircle({ face: { side }, fine }: SpotGround, spot: Spot): ReturnType<typeof circleOf> {
  const heights = Float32Array.from(spot.pixels, (i) => spot.sign * fine[i]!);
  const half = OUTLINE_AT * selectNth(heights, Math.floor(0.8 * heights.length));
  const crossings: [number, number][] = [];
  for (const i of spot.pixels) {
    const v = spot.sign * fine[i]!;
    if (v < half) continue;
    const x = i % side;
    const y = Math.floor(i / side);
    for (const [dx, dy] of AROUND) {
      const w = spot.sign * (fine[i + dy * side + dx] ?? 0);
      if (w < half) crossings.push([x + (dx * (v - half)) / (v - w), y + (dy * (v - half)) / (v - w)]);
    }
  }
  const circle = enclosingCircle(hullOf(crossings));
  return circle ? { x: circle.x, y: circle.y, size: 2 * circle.r } : circleOf(spot, side);
}
/** A little under a half: blur takes the points of a ragged outline back, and leaves a straight edge where it is. */
const OUTLINE_AT = 0.44;
const AROUND = [
  [-1, 0],
  [1, 0],
  [0, -1],
  [0, 1],
] as const;

/** Length and width of an ellipse with the same second moments, times the square root of three: those of a bar. */
export function elongation(pixels: readonly number[], side: number): { length: number; width: number } {
  let sx = 0;
  let sy = 0;
  for (const i of pixels) {
    sx += i % side;
    sy += Math.floor(i / side);
  }
  const mx = sx / pixels.length;
  const my = sy / pixels.length;
  let xx = 1 / 12;
  let yy = 1 / 12;
  let xy = 0;
  for (const i of pixels) {
    const dx = (i % side) - mx;
    const dy = Math.floor(i / side) - my;
    xx += (dx * dx) / pixels.length;
    yy += (dy * dy) / pixels.length;
    xy += (dx * dy) / pixels.length;
  }
  const half = Math.hypot((xx - yy) / 2, xy);
  const big = (xx + yy) / 2 + half;
  const small = Math.max(1 / 12, (xx + yy) / 2 - half);
  return { length: 2 * Math.sqrt(3 * big), width: 2 * Math.sqrt(3 * small) };
}
