import { DomainError } from '../domain-error.ts';
import type { GreyImage } from '../faces/pixels/image.ts';

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

/** Levels of grey, by the mean of red and green: on paper the marks are black in each. */
export function greyOf({ width, height, data }: ColourImage): GreyImage {
  const grey = new Uint8Array(width * height);
  for (let i = 0, k = 0; i < grey.length; i++, k += 4) grey[i] = (data[k]! + data[k + 1]!) >> 1;
  return { width, height, data: grey };
}

/** Level of one colour (0 red, 1 green, 2 blue) between pixels; NaN outside of the picture. */
export function colourAt({ width, height, data }: ColourImage, colour: number, x: number, y: number): number {
  const x0 = Math.floor(x);
  const y0 = Math.floor(y);
  if (x0 < 0 || y0 < 0 || x0 >= width - 1 || y0 >= height - 1) return Number.NaN;
  const fx = x - x0;
  const fy = y - y0;
  const i = 4 * (y0 * width + x0) + colour;
  const below = i + 4 * width;
  return (
    (data[i]! * (1 - fx) + data[i + 4]! * fx) * (1 - fy) +
    (data[below]! * (1 - fx) + data[below + 4]! * fx) * fy
  );
}
