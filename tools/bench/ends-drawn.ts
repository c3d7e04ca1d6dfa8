import {
  type CameraCard,
  cardOfMethod,
  type ColourImage,
  measureEnd,
  quantileOfSorted,
} from '@clear-mark/core';
import { type CardPicture, drawEnd, randomEndScene, rngFrom } from '@clear-mark/sim';
import type { PreparedEnd } from '../../packages/sim/src/end-scene.ts';
import { otherEnd } from '../../packages/sim/src/other-end-for-tests.ts';
import { methodNamed } from '../card-command.ts';
import { cardPicture } from '../make-ends.ts';
import type { Measured } from './measured.ts';

const SIZE = { width: 1632, height: 1224 };
const COUNT = 24;
const SEED = 52_000;
/** Of a photograph of 2 megapixels: 95 % of the lengths are within this, mm. */
const GOAL_MM = 0.5;
const LAYERS = ['jacket', 'buffer', 'glass'] as const;

type Drawn = ColourImage & { readonly end: PreparedEnd };
const WAYS: Readonly<Record<string, (card: CardPicture, seed: number) => Drawn>> = {
  own: (card, seed) => {
    const rng = rngFrom(seed);
    const photo = drawEnd(card, randomEndScene(rng, { ...SIZE, fault: 'none' }), rng);
    return { ...photo, end: photo.scene.end };
  },
  'second way': (card, seed) => otherEnd(rngFrom(seed), card, SIZE),
};

/** How far lengths lie off what was drawn, in fresh photographs of both ways to draw them; the worse way counts. */
export async function benchEndsDrawn(): Promise<Measured> {
  const sheet = methodNamed('round-cord')!;
  const card = cardOfMethod(sheet);
  const picture = await cardPicture(card, sheet);
  const found = Object.entries(WAYS).map(([name, draw]) => ({ name, ...tallied(card, picture, draw) }));
  return {
    name: `Lengths of prepared ends: 95 % of them lie off less / ${GOAL_MM} mm, the worse of two ways to draw them`,
    ratio: Math.max(...found.map((f) => f.at95)) / GOAL_MM,
    most: 1,
    unit: 'times',
    detail: found
      .map(
        (f) =>
          `${f.name}: ${f.each.map(([layer, mm]) => `${layer} ${mm.toFixed(2)}`).join(', ')} mm, ` +
          `${f.measured} of ${f.asked} lengths, ${(100 * f.covered).toFixed(0)} % within twice their uncertainty`,
      )
      .join('; '),
  };
}

function tallied(
  card: CameraCard,
  picture: CardPicture,
  draw: (card: CardPicture, seed: number) => Drawn,
): {
  readonly at95: number;
  readonly each: readonly (readonly [layer: string, mm: number])[];
  readonly measured: number;
  readonly asked: number;
  readonly covered: number;
} {
  const off: Record<(typeof LAYERS)[number], number[]> = { jacket: [], buffer: [], glass: [] };
  let within = 0;
  for (let i = 0; i < COUNT; i++) {
    const photo = draw(picture, SEED + i);
    const reading = measureEnd(photo, card);
    if (!reading.ok) continue;
    for (const layer of LAYERS) {
      const length = reading[layer];
      if (!length) continue;
      const error = Math.abs(length.mm - photo.end[`${layer}Mm`]);
      off[layer].push(error);
      if (error < 2 * length.sdMm) within += 1;
    }
  }
  const all = LAYERS.flatMap((layer) => off[layer]);
  return {
    at95: at95(all),
    each: LAYERS.map((layer) => [layer, at95(off[layer])] as const),
    measured: all.length,
    asked: 3 * COUNT,
    covered: within / Math.max(1, all.length),
  };
}
const at95 = (errors: readonly number[]): number =>
  quantileOfSorted(
    [...errors].sort((a, b) => a - b),
    0.95,
  );
