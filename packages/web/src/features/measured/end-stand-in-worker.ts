import type { CameraCard, MethodSheet } from '@clear-mark/core';
import { cameraCardShapes } from '@clear-mark/paper';
import {
  between,
  type CardPicture,
  drawEnd,
  normal,
  type PreparedEnd,
  randomEndScene,
  type Rng,
  rngFrom,
} from '@clear-mark/sim';
import { answerOrders } from '../../workers/answer-orders.ts';
import type { EndStandInOrder, StandInPicture } from './measure-orders.ts';

const PX_PER_MM = 16;
const SIZE = { width: 1400, height: 1050 };

answerOrders<EndStandInOrder, StandInPicture>(async ({ seed, card }, tell) => {
  const rng = rngFrom(seed);
  const scene = randomEndScene(rng, {
    ...SIZE,
    fault: 'none',
    fills: 0.85,
    rollDeg: 6 * (rng() - 0.5),
    bendMm: 2000,
  });
  const photo = drawEnd(pictureOf(card), { ...scene, end: preparedFor(card, scene.end, rng) }, rng);
  const canvas = new OffscreenCanvas(photo.width, photo.height);
  const image = new ImageData(new Uint8ClampedArray(photo.data), photo.width, photo.height);
  canvas.getContext('2d')!.putImageData(image, 0, 0);
  tell({ png: await canvas.convertToBlob({ type: 'image/png' }) });
});

/** An end such as a trainee prepares it: near the lengths of the card. */
function preparedFor({ lengths }: CameraCard, end: PreparedEnd, rng: Rng): PreparedEnd {
  const of = (name: string): number | undefined => lengths.find((l) => l.name === name)?.fromEndMm;
  const bufferMm = (of('buffer') ?? end.bufferMm) + 0.6 * normal(rng);
  const jacketMm = (of('jacket') ?? bufferMm + 15) + 0.8 * normal(rng);
  return { ...end, bufferMm, jacketMm, glassMm: bufferMm - between(rng, 0.5, 2) };
}

/** The card as it is printed, without its words: nothing is measured by them. */
function pictureOf(card: CameraCard): CardPicture {
  const width = Math.round(card.widthMm * PX_PER_MM);
  const height = Math.round(card.heightMm * PX_PER_MM);
  const context = new OffscreenCanvas(width, height).getContext('2d')!;
  context.fillStyle = '#fff';
  context.fillRect(0, 0, width, height);
  context.scale(PX_PER_MM, PX_PER_MM);
  for (const shape of cameraCardShapes(card, { title: '', version: 0 } as MethodSheet)) {
    context.fillStyle = 'fill' in shape && shape.fill === 1 ? '#fff' : '#000';
    context.beginPath();
    if (shape.kind === 'circle') context.arc(shape.at[0], shape.at[1], shape.diameterMm / 2, 0, 2 * Math.PI);
    else if (shape.kind === 'rect') context.rect(shape.at[0], shape.at[1], shape.widthMm, shape.heightMm);
    else if (shape.kind === 'polygon') shape.points.forEach(([x, y]) => context.lineTo(x, y));
    else continue;
    context.fill();
  }
  const { data } = context.getImageData(0, 0, width, height);
  const grey = new Uint8Array(width * height);
  for (let i = 0; i < grey.length; i++) grey[i] = data[4 * i]!;
  const { axis, marks } = card;
  return {
    width,
    height,
    data: grey,
    widthMm: card.widthMm,
    heightMm: card.heightMm,
    axis: { fromX: axis.from.xMm, toX: axis.to.xMm, y: axis.from.yMm },
    marks: marks.map((m) => [m.xMm, m.yMm] as const),
  };
}
