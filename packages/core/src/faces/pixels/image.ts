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

/**
 * Bilinear values along a ray: from `from` pixels on, each `step` further, as many as `out` takes; NaN outside the picture.
 * `ux` and `uy` are its direction.
 */
export function sampleRay(
  { width, height, data }: GreyImage,
  x: number,
  y: number,
  ux: number,
  uy: number,
  from: number,
  step: number,
  out: Float64Array,
): void {
  for (let k = 0; k < out.length; k++) {
    const d = from + k * step;
    const px = x + d * ux;
    const py = y + d * uy;
    if (!(px >= 0 && py >= 0 && px < width - 1 && py < height - 1)) {
      out[k] = Number.NaN;
      continue;
    }
    const x0 = px | 0;
    const y0 = py | 0;
    const fx = px - x0;
    const fy = py - y0;
    const at = y0 * width + x0;
    const top = data[at]! * (1 - fx) + data[at + 1]! * fx;
    const bottom = data[at + width]! * (1 - fx) + data[at + width + 1]! * fx;
    out[k] = top * (1 - fy) + bottom * fy;
  }
}

/** The picture made smaller by a whole factor: the mean of each block of pixels, what is left over at the edges dropped. */
export function shrink(
  image: GreyImage,
  factor: number,
): { width: number; height: number; level: Float32Array } {
  const width = Math.floor(image.width / factor);
  const height = Math.floor(image.height / factor);
  const level = new Float32Array(width * height);
  const share = 1 / (factor * factor);
  for (let y = 0; y < height; y++) {
    const row = y * factor * image.width;
    for (let x = 0; x < width; x++) level[y * width + x] = blockSum(image, row + x * factor, factor) * share;
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

/**
 * A part of a picture made twice as large: cubic between pixels (Catmull and Rom 1974, from memory), so that edges keep their
 * place. The middle of pixel x becomes 2 x.
 */
export function doubled(image: GreyImage): GreyImage {
  const { width, height, data } = image;
  const w = 2 * width - 1;
  const rows = new Float32Array(w * height);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    for (let x = 0; x < width; x++) {
      rows[y * w + 2 * x] = data[row + x]!;
      if (x === width - 1) continue;
      const a = data[row + Math.max(0, x - 1)]!;
      const d = data[row + Math.min(width - 1, x + 2)]!;
      rows[y * w + 2 * x + 1] = (9 * (data[row + x]! + data[row + x + 1]!) - a - d) / 16;
    }
  }
  const h = 2 * height - 1;
  const out = new Uint8Array(w * h);
  for (let y = 0; y < h; y++) {
    const at = (k: number): number => Math.max(0, Math.min(height - 1, k)) * w;
    const b = at(y >> 1);
    if (y % 2 === 0) {
      for (let x = 0; x < w; x++) out[y * w + x] = Math.max(0, Math.min(255, rows[b + x]! + 0.5));
      continue;
    }
    const a = at((y >> 1) - 1);
    const c = at((y >> 1) + 1);
    const d = at((y >> 1) + 2);
    for (let x = 0; x < w; x++) {
      const v = (9 * (rows[b + x]! + rows[c + x]!) - rows[a + x]! - rows[d + x]!) / 16;
      out[y * w + x] = Math.max(0, Math.min(255, v + 0.5));
    }
  }
  return { width: w, height: h, data: out };
}

/** The part of a picture within reach of a place, smaller by a whole factor, and where it begins. */
export function partRound(
  image: GreyImage,
  { x, y }: { readonly x: number; readonly y: number },
  reach: number,
  factor = 1,
): [left: number, top: number, part: GreyImage] {
  const left = Math.max(0, Math.floor(x - reach));
  const top = Math.max(0, Math.floor(y - reach));
  const width = Math.floor((Math.min(image.width, Math.ceil(x + reach) + 1) - left) / factor);
  const height = Math.floor((Math.min(image.height, Math.ceil(y + reach) + 1) - top) / factor);
  const data = new Uint8Array(width * height);
  const share = 1 / (factor * factor);
  for (let row = 0; row < height; row++) {
    const from = (top + row * factor) * image.width + left;
    if (factor === 1) data.set(image.data.subarray(from, from + width), row * width);
    else
      for (let k = 0; k < width; k++)
        data[row * width + k] = blockSum(image, from + k * factor, factor) * share + 0.5;
  }
  return [left, top, { width, height, data }];
}

/** The sum of a square of pixels that begins at a place. */
function blockSum({ width, data }: GreyImage, from: number, side: number): number {
  let sum = 0;
  for (let j = 0, row = from; j < side; j++, row += width)
    for (let i = row; i < row + side; i++) sum += data[i]!;
  return sum;
}
