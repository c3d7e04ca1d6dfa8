import { faceCriteria, gradeFace } from '@clear-mark/core';
import { randomRow, renderFace, type RenderedFace, rngFrom, scopeFace } from '@clear-mark/sim';
import { answerOrders } from '../../../workers/answer-orders.ts';
import type { StandInOrder, StandInPicture } from './face-orders.ts';

answerOrders<StandInOrder, StandInPicture>(async (order, tell) => tell(await render(order)));

async function render(order: StandInOrder): Promise<StandInPicture> {
  const face = order.kind === 'row' ? rowOf(order) : faceOf(order);
  const table = faceCriteria(order.kind === 'multimode' ? 'mm' : 'sm-pc')!;
  const features = 'features' in face ? face.features : face.fibers.flatMap((f) => f.features);
  const grades =
    'features' in face ? [gradeFace(features, table)] : face.fibers.map((f) => gradeFace(f.features, table));
  return {
    width: face.width,
    height: face.height,
    png: await pngOf(face),
    looks: [...new Set(features.map((f) => f.look))],
    verdict: grades.some((g) => g.verdict === 'fail') ? 'fail' : 'pass',
  };
}

/** Another shot of a face differs in its noise alone. */
function faceOf({ kind, shot, ...order }: StandInOrder): RenderedFace {
  const { scene, features } = scopeFace({ ...order, kind: kind === 'multimode' ? kind : 'single_mode' });
  return renderFace(scene, features, rngFrom(order.seed + 7919 * (shot + 1)));
}

function rowOf({ seed, state, shot }: StandInOrder): ReturnType<typeof randomRow> {
  const rng = rngFrom(seed + 31 * shot);
  const states = Array.from({ length: 6 }, () => (rng() < 0.35 ? state : 'clean'));
  return randomRow(rng, states, { height: 400 });
}

async function pngOf({
  width,
  height,
  data,
}: {
  width: number;
  height: number;
  data: Uint8Array;
}): Promise<Blob> {
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d')!;
  const image = context.createImageData(width, height);
  for (let i = 0; i < data.length; i++) {
    image.data[4 * i] = image.data[4 * i + 1] = image.data[4 * i + 2] = data[i]!;
    image.data[4 * i + 3] = 255;
  }
  context.putImageData(image, 0, 0);
  return canvas.convertToBlob({ type: 'image/png' });
}
