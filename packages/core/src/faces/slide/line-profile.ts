import type { GreyImage } from '../pixels/image.ts';

/** Share of the gradients' energy that has to lie in one direction: noise has none, a grid of two directions little. */
const LEAST_COHERENCE = 0.25;
/** How far from the gradients' direction the sharpest profile is looked for, and in what steps, first coarse ones, degrees; house. */
const AROUND_DEGREES = 1.5;
/** Lines 6 px apart over 1000 px are seen up to 0.3 degree off their direction: no step misses them. */
const COARSE_DEGREES = 0.15;
const STEP_DEGREES = 0.05;
/** At most so many pixels are summed for a profile. */
const MOST_PIXELS = 400_000;

const RADIANS = Math.PI / 180;

/**
 * The direction across parallel lines, radians from the x axis, -pi/2 to pi/2; null where no direction stands out. From the
 * structure tensor of the picture (Bigun and Granlund 1987, from memory), then where the profile has most variance.
 */
export function directionOf(image: GreyImage): number | null {
  const { width, height, data } = image;
  let xx = 0;
  let yy = 0;
  let xy = 0;
  for (let y = 1; y < height - 1; y++) {
    for (let x = 1; x < width - 1; x++) {
      const at = y * width + x;
      // Differences over three pixels, summed over three: noise counts less than an edge.
      const gx =
        data[at + 1 - width]! +
        2 * data[at + 1]! +
        data[at + 1 + width]! -
        data[at - 1 - width]! -
        2 * data[at - 1]! -
        data[at - 1 + width]!;
      const gy =
        data[at + width - 1]! +
        2 * data[at + width]! +
        data[at + width + 1]! -
        data[at - width - 1]! -
        2 * data[at - width]! -
        data[at - width + 1]!;
      xx += gx * gx;
      yy += gy * gy;
      xy += gx * gy;
    }
  }
  const energy = xx + yy;
  if (energy === 0 || Math.hypot(xx - yy, 2 * xy) / energy < LEAST_COHERENCE) return null;
  const rough = 0.5 * Math.atan2(2 * xy, xx - yy);
  const coarse = sharpest(image, rough, AROUND_DEGREES, COARSE_DEGREES);
  const best = sharpest(image, coarse, COARSE_DEGREES, STEP_DEGREES);
  return best > Math.PI / 2 ? best - Math.PI : best < -Math.PI / 2 ? best + Math.PI : best;
}

/** Of the directions up to `around` to each side of one, in such steps, degrees, that of the profile with most variance; radians. */
function sharpest(image: GreyImage, middle: number, around: number, step: number): number {
  let best = middle;
  let most = -1;
  const steps = Math.round(around / step);
  for (let k = -steps; k <= steps; k++) {
    const angle = middle + k * step * RADIANS;
    const sharp = varianceOf(profileAlong(image, angle));
    if (sharp > most) [most, best] = [sharp, angle];
  }
  return best;
}

/**
 * Mean level by the distance along a direction through the picture's middle, a value each pixel of distance. A pixel is shared
 * between the two values that it lies between; values that few pixels come to are dropped at both ends.
 */
export function profileAlong({ width, height, data }: GreyImage, angle: number): Float64Array {
  const cos = Math.cos(angle);
  const sin = Math.sin(angle);
  const reach = Math.ceil((Math.abs(cos) * width + Math.abs(sin) * height) / 2) + 1;
  const sums = new Float64Array(2 * reach + 2);
  const counts = new Float64Array(2 * reach + 2);
  const skip = Math.max(1, Math.round(Math.sqrt((width * height) / MOST_PIXELS)));
  // Rows or columns are left out across the lines only, so that nothing is lost along the profile.
  const [stepX, stepY] = Math.abs(cos) > Math.abs(sin) ? [1, skip * skip] : [skip * skip, 1];
  for (let y = 0; y < height; y += stepY) {
    for (let x = 0; x < width; x += stepX) {
      const t = (x - width / 2) * cos + (y - height / 2) * sin + reach;
      const bin = Math.floor(t);
      const share = t - bin;
      const level = data[y * width + x]!;
      sums[bin]! += level * (1 - share);
      counts[bin]! += 1 - share;
      sums[bin + 1]! += level * share;
      counts[bin + 1]! += share;
    }
  }
  const enough = 0.25 * counts.reduce((most, c) => Math.max(most, c), 0);
  let from = 0;
  let to = counts.length;
  while (from < to && counts[from]! < enough) from += 1;
  while (to > from && counts[to - 1]! < enough) to -= 1;
  return Float64Array.from({ length: to - from }, (_, i) => sums[from + i]! / counts[from + i]!);
}

function varianceOf(values: Float64Array): number {
  const mean = values.reduce((sum, v) => sum + v, 0) / values.length;
  return values.reduce((sum, v) => sum + (v - mean) ** 2, 0) / values.length;
}
