import type { FaceSettings } from '../settings.ts';
import { circleOf } from './spot-shape.ts';
import { flooded } from './find-spots.ts';
import type { Spot, SpotGround } from './spot.ts';

/**
 * Diameter that blur took off the corners of a three-sided spot, in pixels; 0 of what is round or long. At half the height
 * a straight edge keeps its place under blur and a sharp corner does not. The third moment about the middle tells corners
 * from round ends whatever the blur, since a symmetric blur adds nothing to it: its size is R^3 / 10 for a regular triangle
 * of circumradius R and 0 for an ellipse.
 */
export function lostAtCorners(
  ground: SpotGround,
  spot: Spot,
  size: number,
  blurPx: number,
  settings: FaceSettings,
): number {
  if (spot.pixels.length < settings.corners.compact * size * size) return 0;
  const { fine, face } = ground;
  const { side } = face;
  const least = Math.max(2.2 * ground.spread, settings.corners.reachesTo * spot.peak);
  const pixels = flooded(ground, spot.pixels, null, (i) => spot.sign * fine[i]! >= least, settings);
  // What runs into a neighbour has not its own shape.
  if (circleOf({ pixels }, side).size > size + 5 * blurPx) return 0;
  const share = (thirdMoment(pixels, (i) => spot.sign * fine[i]!, side) * 10) / (size / 2) ** 3;
  return (
    settings.corners.lostAtCorner *
    blurPx *
    Math.max(
      0,
      Math.min(
        1,
        (share - settings.corners.fromThreeSided) /
          (settings.corners.allThreeSided - settings.corners.fromThreeSided),
      ),
    )
  );
}

/** Size of the mean of z^3 about the middle, z = x + iy in pixels, each pixel weighed. */
function thirdMoment(pixels: readonly number[], weight: (i: number) => number, side: number): number {
  let sum = 0;
  let mx = 0;
  let my = 0;
  for (const i of pixels) {
    const w = weight(i);
    sum += w;
    mx += w * (i % side);
    my += w * Math.floor(i / side);
  }
  let re = 0;
  let im = 0;
  for (const i of pixels) {
    const w = weight(i);
    const x = (i % side) - mx / sum;
    const y = Math.floor(i / side) - my / sum;
    re += w * (x * x * x - 3 * x * y * y);
    im += w * (3 * x * x * y - y * y * y);
  }
  return Math.hypot(re, im) / sum;
}
