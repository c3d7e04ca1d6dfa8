import {
  flatPicture,
  type GreyImage,
  measureFace,
  measureRow,
  MOST_PIXELS,
  pictureHead,
} from '@clear-mark/core';
import { answerOrders } from '../../../workers/answer-orders.ts';
import type { FaceNews, FaceOrder, FlatImage } from './face-orders.ts';

/** More of a file than any head is long. */
const HEAD_BYTES = 262_144;

answerOrders(work);

/** Reads, measures and grades one picture; each step is told, so that a slow one is seen to be at work. */
async function work({ picture, view, table }: FaceOrder, tell: (news: FaceNews) => void): Promise<void> {
  tell({ news: 'step', step: 'reading', fiber: null });
  const head = pictureHead(new Uint8Array(await picture.slice(0, HEAD_BYTES).arrayBuffer()));
  if (head.kind === 'refused') return tell({ news: 'problem', problem: head.why });
  if (head.width * head.height > MOST_PIXELS) return tell({ news: 'problem', problem: 'too_many_pixels' });
  let grey: GreyImage;
  try {
    grey = await greyOf(picture);
  } catch {
    return tell({ news: 'problem', problem: 'broken' });
  }
  tell({ news: 'size', width: grey.width, height: grey.height });
  if (view === 'row') {
    const found = measureRow(grey, table, (done) =>
      tell({ news: 'step', step: 'features', fiber: done + 1 }),
    );
    return tell({ news: 'done', found, flat: null });
  }
  const found = measureFace(grey, table, (step) => tell({ news: 'step', step, fiber: null }));
  const flat = found.ok ? await flatImage(grey, found.centrePx, found.claddingDiameterPx) : null;
  tell({ news: 'done', found, flat });
}

/** Coloured and packed here, so that the page has nothing to do but to show it. */
async function flatImage(
  grey: GreyImage,
  centrePx: readonly [number, number],
  diameterPx: number,
): Promise<FlatImage> {
  const { left, top, side, data } = flatPicture(grey, centrePx, diameterPx);
  const canvas = new OffscreenCanvas(side, side);
  const context = canvas.getContext('2d')!;
  const image = context.createImageData(side, side);
  for (let i = 0; i < data.length; i++) {
    image.data[4 * i] = image.data[4 * i + 1] = image.data[4 * i + 2] = data[i]!;
    image.data[4 * i + 3] = data[i] === 0 ? 0 : 255;
  }
  context.putImageData(image, 0, 0);
  return { left, top, side, png: await canvas.convertToBlob({ type: 'image/png' }) };
}

async function greyOf(picture: Blob): Promise<GreyImage> {
  const bitmap = await createImageBitmap(picture);
  const { width, height } = bitmap;
  const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!;
  // What is transparent is black, as on the command line.
  context.fillStyle = '#000';
  context.fillRect(0, 0, width, height);
  context.drawImage(bitmap, 0, 0);
  bitmap.close();
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
