import { type ColourImage, type GreyImage, MOST_PIXELS, pictureHead } from '@clear-mark/core';
import type { PictureProblem } from './picture-problems.ts';

/** More of a file than any head is long. */
const HEAD_BYTES = 262_144;

/** The grey levels of a picture, in a worker: its head is read before it is decoded. */
export async function readPicture(
  picture: Blob,
): Promise<{ readonly grey: GreyImage } | { readonly problem: PictureProblem }> {
  const read = await decoded(picture, greyOf);
  return 'problem' in read ? read : { grey: read.done };
}

/** The colours of a picture, likewise. */
export async function readColourPicture(
  picture: Blob,
): Promise<{ readonly colour: ColourImage } | { readonly problem: PictureProblem }> {
  const read = await decoded(picture, colourOf);
  return 'problem' in read ? read : { colour: read.done };
}

async function decoded<T>(
  picture: Blob,
  work: (picture: Blob) => Promise<T>,
): Promise<{ readonly done: T } | { readonly problem: PictureProblem }> {
  const head = pictureHead(new Uint8Array(await picture.slice(0, HEAD_BYTES).arrayBuffer()));
  if (head.kind === 'refused') return { problem: head.why };
  if (head.width * head.height > MOST_PIXELS) return { problem: 'too_many_pixels' };
  try {
    return { done: await work(picture) };
  } catch {
    return { problem: 'broken' };
  }
}

async function drawnOn(picture: Blob): Promise<OffscreenCanvasRenderingContext2D> {
  const bitmap = await createImageBitmap(picture);
  const { width, height } = bitmap;
  const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!;
  // What is transparent is black, as on the command line.
  context.fillStyle = '#000';
  context.fillRect(0, 0, width, height);
  context.drawImage(bitmap, 0, 0);
  bitmap.close();
  return context;
}

async function colourOf(picture: Blob): Promise<ColourImage> {
  const context = await drawnOn(picture);
  const { width, height } = context.canvas;
  return { width, height, data: context.getImageData(0, 0, width, height).data };
}

async function greyOf(picture: Blob): Promise<GreyImage> {
  const context = await drawnOn(picture);
  const { width, height } = context.canvas;
  const grey = new Uint8Array(width * height);
  // In bands, so that the colours of a large picture are never held all at once.
  const band = Math.max(1, Math.floor(1_000_000 / width));
  for (let top = 0; top < height; top += band) {
    const rows = Math.min(band, height - top);
    const { data } = context.getImageData(0, top, width, rows);
    // Luma of ITU-R BT.601, as greyscale conversion of pictures usually is.
    for (let i = 0; i < width * rows; i++) {
      const luma = 0.299 * data[4 * i]! + 0.587 * data[4 * i + 1]! + 0.114 * data[4 * i + 2]!;
      grey[top * width + i] = Math.round(luma);
    }
  }
  return { width, height, data: grey };
}
