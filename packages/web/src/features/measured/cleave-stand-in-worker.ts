import { drawCleave, randomCleaveScene, rngFrom } from '@clear-mark/sim';
import { answerOrders } from '../../workers/answer-orders.ts';
import type { CleaveStandInOrder, StandInPicture } from './measure-orders.ts';

answerOrders<CleaveStandInOrder, StandInPicture>(async ({ seed }, tell) => {
  const rng = rngFrom(seed);
  const view = drawCleave(randomCleaveScene(rng), rng);
  const canvas = new OffscreenCanvas(view.width, view.height);
  const context = canvas.getContext('2d')!;
  const image = context.createImageData(view.width, view.height);
  for (let i = 0; i < view.data.length; i++) {
    image.data[4 * i] = image.data[4 * i + 1] = image.data[4 * i + 2] = view.data[i]!;
    image.data[4 * i + 3] = 255;
  }
  context.putImageData(image, 0, 0);
  tell({ png: await canvas.convertToBlob({ type: 'image/png' }) });
});
