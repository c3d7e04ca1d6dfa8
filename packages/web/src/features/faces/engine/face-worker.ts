import { flatPicture, type GreyImage, measureFace, measureRow } from '@clear-mark/core';
import { answerOrders } from '../../../workers/answer-orders.ts';
import { readPicture } from '../../../pictures/read-picture.ts';
import type { FaceNews, FaceOrder, FlatImage } from './face-orders.ts';

answerOrders(work);

/** Reads, measures and grades one picture; each step is told, so that a slow one is seen to be at work. */
async function work({ picture, view, table }: FaceOrder, tell: (news: FaceNews) => void): Promise<void> {
  tell({ news: 'step', step: 'reading', fiber: null });
  const read = await readPicture(picture);
  if ('problem' in read) return tell({ news: 'problem', problem: read.problem });
  const { grey } = read;
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
