import { DomainError } from '../../domain-error.ts';

/** An 8-bit grey picture, row by row from the top left. */
export interface GreyImage {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array;
}

/** Refuses a picture whose data does not fit its size. Error: `face.bad_image`. */
export function checkImage(image: GreyImage): GreyImage {
  const { width, height, data } = image;
  if (!Number.isInteger(width) || !Number.isInteger(height) || width < 1 || height < 1) {
    throw new DomainError('face.bad_image', { width, height });
  }
  if (data.length !== width * height) throw new DomainError('face.bad_image', { width, height });
  return image;
}

/** Bilinear value between pixels; null outside the picture. */
export function sampleAt(image: GreyImage, x: number, y: number): number | null {
  const { width, height, data } = image;
  const x0 = Math.floor(x);
  const y0 = Math.floor(y);
  if (x0 < 0 || y0 < 0 || x0 >= width - 1 || y0 >= height - 1) return null;
  const fx = x - x0;
  const fy = y - y0;
  const at = y0 * width + x0;
  const top = data[at]! * (1 - fx) + data[at + 1]! * fx;
  const bottom = data[at + width]! * (1 - fx) + data[at + width + 1]! * fx;
  return top * (1 - fy) + bottom * fy;
}

/** The picture made smaller by a whole factor: the mean of each block of pixels, what is left over at the edges dropped. */
export function shrink(
  image: GreyImage,
  factor: number,
): { width: number; height: number; level: Float32Array } {
  const width = Math.floor(image.width / factor);
  const height = Math.floor(image.height / factor);
  const level = new Float32Array(width * height);
  const { data } = image;
  const share = 1 / (factor * factor);
  for (let y = 0; y < height * factor; y++) {
    const to = Math.floor(y / factor) * width;
    let at = y * image.width;
    for (let x = 0; x < width; x++) {
      let sum = 0;
      for (let k = 0; k < factor; k++) sum += data[at++]!;
      level[to + x]! += sum * share;
    }
  }
  return { width, height, level };
}

/** Levels as a picture again, rounded to whole ones. */
export function inGrey({
  width,
  height,
  level,
}: {
  width: number;
  height: number;
  level: Float32Array;
}): GreyImage {
  const data = new Uint8Array(level.length);
  for (let i = 0; i < data.length; i++) data[i] = level[i]! + 0.5;
  return { width, height, data };
}
