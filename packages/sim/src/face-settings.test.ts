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
import { type FaceScene, type FaceState, randomFace, randomScene, renderFace, rngFrom } from './index.ts';
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
const dimmed = ({ width, height, data }: GreyImage, share: number): GreyImage => ({
  width,
  height,
  data: data.map((v) => Math.round(v * share)),
});

/** For each threshold a picture on which something else is found when it is raised by a third. */
const PICTURES: Readonly<Record<string, () => GreyImage>> = {
  'face.leastSidePx': () => plain(0.64, 205),
  'face.leastLevel': () => dimmed(plain(0.5, 290), 19 / 165),
  'face.coarsePixelUm': () => drawn('mixed', 12, 0.2, 700, 1.4),
  'face.smallestUm': () => plain(1.1, 160),
  'face.pixelsForSmallest': () => plain(0.85, 190),
  'face.mostBlurUm': () => plain(0.4, 350, { blurPx: 4.7 }),
  'face.doubledFromUm': () => other(3000),
  'cladding.leastAlike': () => drawn('scratched', 3003, 0.5, 290),
  'light.pooledUm': () => other(3003),
  'crests.seed': () => drawn('scratched', 3008, 0.5, 290),
  'crests.turn': () => other(3004),
  'lines.leastCrestPx': () => other(3029),
  'curve.longPx': () => drawn('scratched', 3003, 0.5, 290),
  'line.shareOnLine': () => other(3002),
  'line.sideToPx': () => other(3004),
  'spots.growsTo': () => other(3000),
  'corners.reachesTo': () => other(3005),
  'corners.allThreeSided': () => other(3005),
  'crests.leastMean': () => drawn('scratched', 3003, 0.5, 290),
  'crests.follows': () => other(3002),
  'line.onLine': () => drawn('scratched', 3003, 0.5, 290),
  'line.sideFromPx': () => other(3029),
  'spots.broadPeak': () => other(3025),
  'corners.fromThreeSided': () => drawn('dirty', 3018, 0.5, 290),
};

/**
 * Of these no small picture is known yet that one third more decides; what they do is seen on the sets that `bench` measures.
 * None may be added.
 */
const NOT_HELD: readonly string[] = [
  'cladding.mostUneven',
  'cladding.rimBlurs',
  'core.chance',
  'light.leastOfRing',
  'noise.leastOfRing',
  'pieces.turnedDeg',
  'lines.leastLengthPx',
  'lines.sameWhenCovered',
  'curve.offPx',
  'curve.nearer',
  'line.mostWidthPx',
  'line.elongation',
  'line.closeEnoughPx',
  'line.mostRoughPx',
  'line.roughByChance',
  'peel.heightVaries',
  'merge.alike',
  'spots.falsePerScale',
  'spots.falsePerScaleOfGrain',
  'spots.leastSeed',
  'spots.tellingPeaks',
  'spots.leastPeak',
  'corners.lostAtCorner',
  'corners.compact',
  'features.plainPx',
  'features.keepOffPx',
  'features.shownBefore',
  'features.longestCrackUm',
  'features.hangsOnUm',
  'features.leastHanging',
  'features.barElongation',
  'features.barFilled',
  'features.shapedFromBlurs',
  'features.roundedOff',
  'features.shortLineElongation',
  'features.faintContrast',
  'features.longestCrackPiecePx',
  'features.madeOfLines',
  'features.madeOfShortLine',
  'outside.copyUm',
];

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

it('every threshold but the known ones is held by a picture here or by a case of its step', () => {
  const held = new Set([...Object.keys(PICTURES), ...Object.keys(CASES)]);
  expect(THRESHOLDS.filter((name) => !held.has(name))).toEqual(NOT_HELD);
});

it.each(Object.entries(PICTURES))(
  '%s decides: raised by a third, something else is found on its picture',
  (name, draw) => {
    const image = draw();
    expect(foundBy(image, raised(name))).not.toBe(foundBy(image, FACE_SETTINGS));
  },
);
