import { faceCriteria, gradeFace } from '@clear-mark/core';
import {
  type FaceScene,
  goesWhenCleaned,
  randomFeatures,
  randomRow,
  randomScene,
  renderFace,
  type RenderedFace,
  rngFrom,
} from '@clear-mark/sim';
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

/** The same seed is the same face: cleaned, less lies on it; another shot differs in its noise alone. */
function faceOf({ seed, state, loose, shot, kind, height }: StandInOrder): RenderedFace {
  const rng = rngFrom(seed);
  const width = Math.round((height * 4) / 3);
  const umPerPx = (150 + 60 * rng()) / height;
  const core = kind === 'multimode' ? 25 : 4.5;
  const first: FaceScene = randomScene(rng, { width, height, umPerPx });
  const scene: FaceScene = {
    ...first,
    centre: [width * (0.48 + 0.04 * rng()), height * (0.49 + 0.02 * rng())],
    core: { radiusUm: core, level: first.claddingLevel + 24 },
  };
  const features = randomFeatures(rng, state, scene.noise).filter((feature) => {
    // The same pieces go first each time.
    const sticks = rng();
    return !goesWhenCleaned(feature) || sticks < loose;
  });
  return renderFace(scene, features, rngFrom(seed + 7919 * (shot + 1)));
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
