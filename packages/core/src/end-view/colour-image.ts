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
  if (data.byteOffset % 4 === 0 && IS_LOW_FIRST) {
    // Four bytes at once, red in the lowest.
    const whole = new Uint32Array(data.buffer, data.byteOffset, grey.length);
    for (let i = 0; i < grey.length; i++) grey[i] = ((whole[i]! & 255) + ((whole[i]! >>> 8) & 255)) >> 1;
  } else {
    for (let i = 0, k = 0; i < grey.length; i++, k += 4) grey[i] = (data[k]! + data[k + 1]!) >> 1;
  }
  return { width, height, data: grey };
}
const IS_LOW_FIRST = new Uint8Array(Uint32Array.of(1).buffer)[0] === 1;

/** Levels of red, green and blue between pixels, put into three planes at one place; NaN outside of the picture. */
export function readColours(
  { width, height, data }: ColourImage,
  x: number,
  y: number,
  planes: readonly Float32Array[],
  at: number,
): void {
  const x0 = Math.floor(x);
  const y0 = Math.floor(y);
  const isInside = x0 >= 0 && y0 >= 0 && x0 < width - 1 && y0 < height - 1;
  const fx = x - x0;
  const fy = y - y0;
  const i = 4 * (y0 * width + x0);
  const below = i + 4 * width;
  for (let c = 0; c < 3; c++) {
    planes[c]![at] = isInside
      ? (data[i + c]! * (1 - fx) + data[i + c + 4]! * fx) * (1 - fy) +
        (data[below + c]! * (1 - fx) + data[below + c + 4]! * fx) * fy
      : Number.NaN;
  }
}
