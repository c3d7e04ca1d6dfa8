import { DomainError } from '../domain-error.ts';
import type { PicturePlace } from '../side-view/picture-scale.ts';

/** A photograph as a canvas has it: four bytes a pixel, red, green, blue and one that is not looked at, row after row. */
export interface ColourImage {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array | Uint8ClampedArray;
}

/** Error: `face.bad_image` where the bytes do not fit the size. */
export function checkColour({ width, height, data }: ColourImage): void {
  if (!(width > 0 && height > 0) || data.length !== 4 * width * height)
    throw new DomainError('face.bad_image', { width, height, length: data.length });
}

/** Level of grey between pixels, by the mean of red and green: on paper the marks are black in each. Null outside of the picture. */
export function greyAt({ width, height, data }: ColourImage, x: number, y: number): number | null {
  const x0 = Math.floor(x);
  const y0 = Math.floor(y);
  if (x0 < 0 || y0 < 0 || x0 >= width - 1 || y0 >= height - 1) return null;
  const fx = x - x0;
  const fy = y - y0;
  const i = 4 * (y0 * width + x0);
  const below = i + 4 * width;
  const top = (data[i]! + data[i + 1]!) * (1 - fx) + (data[i + 4]! + data[i + 5]!) * fx;
  const bottom = (data[below]! + data[below + 1]!) * (1 - fx) + (data[below + 4]! + data[below + 5]!) * fx;
  return 0.5 * (top * (1 - fy) + bottom * fy);
}

/** The green of a photograph, smaller by a whole factor: the mean of each block of pixels, what is left over at the edges dropped. */
export function shrunkGreen(
  image: ColourImage,
  factor: number,
): { readonly width: number; readonly height: number; readonly level: Float32Array } {
  const width = Math.floor(image.width / factor);
  const height = Math.floor(image.height / factor);
  const level = new Float32Array(width * height);
  const { data } = image;
  const share = 1 / (factor * factor);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      let sum = 0;
      let row = 4 * (y * factor * image.width + x * factor) + 1;
      for (let j = 0; j < factor; j++) {
        for (let i = row; i < row + 4 * factor; i += 4) sum += data[i]!;
        row += 4 * image.width;
      }
      level[y * width + x] = sum * share;
    }
  }
  return { width, height, level };
}

/**
 * Levels of red, green and blue at so many places on the way from one to another, put into three planes from `at` on; the last place is
 * not among them. NaN outside of the picture.
 */
export function readRow(
  { width, height, data }: ColourImage,
  from: PicturePlace,
  to: PicturePlace,
  count: number,
  [red, green, blue]: Planes,
  at: number,
): void {
  const dx = (to.x - from.x) / count;
  const dy = (to.y - from.y) / count;
  const row = 4 * width;
  for (let k = 0; k < count; k++) {
    const x = from.x + k * dx;
    const y = from.y + k * dy;
    const to = at + k;
    if (!(x >= 0 && y >= 0 && x < width - 1 && y < height - 1)) {
      red[to] = green[to] = blue[to] = Number.NaN;
      continue;
    }
    const x0 = x | 0;
    const y0 = y | 0;
    const fx = x - x0;
    const fy = y - y0;
    const i = y0 * row + 4 * x0;
    const j = i + row;
    // What each of the four pixels counts.
    const d = fx * fy;
    const c = fy - d;
    const b = fx - d;
    const a = 1 - fx - c;
    red[to] = a * data[i]! + b * data[i + 4]! + c * data[j]! + d * data[j + 4]!;
    green[to] = a * data[i + 1]! + b * data[i + 5]! + c * data[j + 1]! + d * data[j + 5]!;
    blue[to] = a * data[i + 2]! + b * data[i + 6]! + c * data[j + 2]! + d * data[j + 6]!;
  }
}
/** Red, green and blue, of equal length. */
export type Planes = readonly [Float32Array, Float32Array, Float32Array];
