import {
  FACE_SETTINGS,
  type FaceSettings,
  faceCriteria,
  type GreyImage,
  measureFace,
} from '@clear-mark/core';
import { expect, it } from 'vitest';
import { CASES } from '../../core/src/faces/settings-cases-for-tests.ts';
import { raised, THRESHOLDS } from '../../core/src/faces/settings-for-tests.ts';
import {
  FACE_STATES,
  type FaceScene,
  type FaceState,
  randomFace,
  randomScene,
  renderFace,
  rngFrom,
} from './index.ts';
import { otherFace } from './other-face-for-tests.ts';

const PC = faceCriteria('sm-pc')!;

const drawn = (state: FaceState, seed: number, umPerPx: number, side: number, noise = 1.6): GreyImage =>
  randomFace(rngFrom(seed), { width: side, height: side, umPerPx, noise }, state);
const other = (seed: number): GreyImage => otherFace(rngFrom(seed), 290, 290, 0.5);
/** A face without a mark, on a square picture. */
function plain(umPerPx: number, side: number, more: Partial<FaceScene> = {}): GreyImage {
  const square = {
    width: side,
    height: side,
    umPerPx,
    centre: [side / 2 + 0.3, side / 2 - 0.4],
    noise: 1.4,
  } as const;
  return renderFace(randomScene(rngFrom(3), { ...square, ...more }), [], rngFrom(4));
}
/** Of a scale and noise of its own. */
function varied(state: FaceState, seed: number): GreyImage {
  const rng = rngFrom(seed);
  const umPerPx = 0.42 + 0.12 * rng();
  const side = Math.round(150 / umPerPx);
  return randomFace(rng, { width: side, height: side, umPerPx, noise: 1.2 + 1.6 * rng() }, state);
}
function variedOther(seed: number): GreyImage {
  const rng = rngFrom(seed);
  const umPerPx = 0.42 + 0.12 * rng();
  const side = Math.round(150 / umPerPx);
  return otherFace(rng, side, side, umPerPx);
}
const noisy = (state: FaceState, seed: number, umPerPx: number, side: number): GreyImage => {
  const rng = rngFrom(seed);
  return randomFace(rng, { width: side, height: side, umPerPx, noise: 1.2 + 1.6 * rng() }, state);
};
const dimmed = ({ width, height, data }: GreyImage, share: number): GreyImage => ({
  width,
  height,
  data: data.map((v) => Math.round(v * share)),
});
const withCore = (radiusUm: number, level: number): GreyImage =>
  plain(0.5, 290, {
    core: { radiusUm, level },
    claddingLevel: 130,
    ferruleLevel: 165,
    vignette: 0,
    slope: [0, 0],
  });

/** For each threshold a picture on which something else is found when it is raised by a third. */
const PICTURES: Readonly<Record<string, () => GreyImage>> = {
  'face.leastSidePx': () => plain(0.64, 205),
  'face.leastLevel': () => dimmed(plain(0.5, 290), 19 / 165),
  'face.smallestUm': () => plain(0.75, 190),
  'face.mostBlurUm': () => plain(0.4, 350, { blurPx: 3.4 }),
  'face.coarsePixelUm': () => drawn('mixed', 12, 0.2, 700, 1.4),
  'core.leastStep': () => withCore(25, 131.8),
  'core.between50And62Um': () => withCore(31.25, 150),
  'noise.leastOfRing': () => variedOther(905),
  'crests.turn': () => noisy('scratched', 2066, 0.36, 422),
  'curve.nearer': () => varied(FACE_STATES[19 % FACE_STATES.length]!, 519),
  'light.leastOfRing': () => other(3038),
  'line.sideToPx': () => other(3038),
  'spots.seed': () => other(3038),
  'spots.growsTo': () => other(3038),
  'spots.leastPeak': () => other(3038),
  'spots.broadPeak': () => other(3038),
  'corners.reachesTo': () => other(3038),
  'corners.allThreeSided': () => other(3038),
  'corners.lostAtCorner': () => other(3038),
  'corners.compact': () => other(3038),
  'features.madeOfLines': () => other(3038),
  'features.madeOfShortLine': () => other(3038),
  'corners.fromThreeSided': () => drawn('dirty', 3008, 0.5, 290),
  'face.pixelsForSmallest': () => other(3032),
  'crests.follows': () => other(3032),
  'line.mostRoughPx': () => drawn('dirty', 3013, 0.5, 290),
  'features.keepOffPx': () => drawn('dirty', 3013, 0.5, 290),
  'crests.leastMean': () => drawn('mixed', 3011, 0.5, 290),
  'line.elongation': () => other(3025),
  'lines.leastLengthPx': () => drawn('cracked', 3010, 0.5, 290),
  'line.shareOnLine': () => drawn('mixed', 3009, 0.5, 290),
  'features.longestCrackPiecePx': () => drawn('mixed', 3009, 0.5, 290),
  'features.plainPx': () => drawn('mixed', 3003, 0.5, 290),
  'light.nearCentrePx': () => other(3004),
  'lines.leastCrestPx': () => other(3004),
  'line.roughByChance': () => other(3004),
  'features.shortLineElongation': () => other(3004),
  'curve.longPx': () => other(3031),
  'crests.seed': () => other(3005),
  'line.sideFromPx': () => drawn('scratched', 3010, 0.5, 290),
  'line.onLine': () => drawn('scratched', 3009, 0.5, 290),
  'peel.heightVaries': () => drawn('scratched', 3009, 0.5, 290),
  'curve.offPx': () => drawn('scratched', 3005, 0.5, 290),
  'merge.alike': () => drawn('scratched', 3005, 0.5, 290),
  'features.faintContrast': () => drawn('scratched', 3005, 0.5, 290),
  'line.mostWidthPx': () => drawn('scratched', 3008, 0.5, 290),
  'lines.sameWhenCovered': () => drawn('mixed', 3012, 0.5, 290),
  'pieces.turnedDeg': () => drawn('mixed', 3000, 0.5, 290),
  'line.closeEnoughPx': () => drawn('scratched', 3003, 0.5, 290),
};

/** What is found, in a few words. */
function foundBy(image: GreyImage, settings: FaceSettings): string {
  const face = measureFace(image, PC, undefined, settings);
  if (!face.ok) return face.reason;
  const marks = face.features.map(
    (f) =>
      `${f.kind} ${f.sizeUm.toFixed(1)} at ${f.xUm.toFixed(0)},${f.yUm.toFixed(0)} ${(f.lengthUm ?? 0).toFixed(0)}`,
  );
  return [face.core.class, ...marks].join('; ');
}

it('every threshold is held by a picture here or by a case of its step', () => {
  const held = new Set([...Object.keys(PICTURES), ...Object.keys(CASES)]);
  expect(THRESHOLDS.filter((name) => !held.has(name))).toEqual([]);
});

it.each(Object.entries(PICTURES))(
  '%s decides: raised by a third, something else is found on its picture',
  (name, draw) => {
    const image = draw();
    expect(foundBy(image, raised(name))).not.toBe(foundBy(image, FACE_SETTINGS));
  },
);
