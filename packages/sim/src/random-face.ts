import { type FaceScene, randomScene, type RenderedFace, renderFace } from './face.ts';
import {
  placeWithin,
  randomCrack,
  randomDefect,
  randomEdgeChip,
  randomFracture,
  randomLint,
  randomScratch,
  type TrueFeature,
} from './face-features.ts';
import { chance, type Rng } from './rng.ts';

/** What became of an end: polished well, left dirty, scratched, broken at the edge or under the surface, or near a limit. */
export const FACE_STATES = [
  'clean',
  'near_limit',
  'dirty',
  'scratched',
  'chipped',
  'cracked',
  'fractured',
  'mixed',
] as const;
export type FaceState = (typeof FACE_STATES)[number];

type Level = (least: number, more: number) => number;

/** What lies on a face of a state. Contrasts are multiples of the noise, dark unless a scratch catches the light. */
export function randomFeatures(rng: Rng, state: FaceState, spread: number): TrueFeature[] {
  const level: Level = (least, more) => spread * (least + more * rng());
  const several = (most: number, make: () => TrueFeature): TrueFeature[] =>
    Array.from({ length: 1 + Math.floor(rng() * most) }, make);
  const scratch = (widthUm: number): TrueFeature =>
    randomScratch(rng, widthUm, (chance(rng, 0.4) ? 1 : -1) * level(4, 14));
  const pit = (sizeUm: number): TrueFeature => randomDefect(rng, sizeUm, -level(5, 22));
  switch (state) {
    case 'clean':
      return chance(rng, 0.5)
        ? []
        : [randomDefect(rng, 0.9 + 0.8 * rng(), -level(5, 15), placeWithin(rng, 55, 18))];
    case 'near_limit':
      return several(4, () =>
        chance(rng, 0.3)
          ? scratch(3 * (0.9 + 0.2 * rng()))
          : pit((chance(rng, 0.5) ? 2 : 5) * (0.9 + 0.2 * rng())),
      );
    case 'dirty':
      return [
        ...several(7, () =>
          randomDefect(rng, 1 + 9 * rng() ** 2, -level(6, 20), placeWithin(rng, 58), 'dust'),
        ),
        ...(chance(rng, 0.5) ? [randomLint(rng, 12 + 25 * rng(), -level(8, 14))] : []),
        ...(chance(rng, 0.4)
          ? [randomDefect(rng, 8 + 14 * rng(), -level(5, 8), placeWithin(rng, 40), 'film')]
          : []),
        ...(chance(rng, 0.6)
          ? [randomDefect(rng, 11 + 14 * rng(), -level(14, 16), placeWithin(rng, 100, 80), 'dust')]
          : []),
      ];
    case 'scratched':
      return several(4, () => scratch(0.6 + 3 * rng() ** 1.5));
    case 'chipped':
      return [randomEdgeChip(rng, 3 + 6 * rng(), -level(9, 18)), ...several(2, () => pit(1 + 6 * rng()))];
    case 'cracked':
      return [randomCrack(rng, 14 + 30 * rng(), -level(9, 14))];
    case 'fractured':
      return [randomFracture(rng, -level(9, 14)), ...(chance(rng, 0.5) ? [scratch(0.8 + 2 * rng())] : [])];
    case 'mixed': {
      const sized = (): number =>
        chance(rng, 0.34) ? (chance(rng, 0.5) ? 2 : 5) * (0.9 + 0.2 * rng()) : 1 + 9 * rng() ** 2;
      return [
        ...Array.from({ length: Math.floor(rng() * 6) }, () => pit(sized())),
        ...Array.from({ length: Math.floor(rng() * 4) }, () => scratch(0.6 + 3 * rng() ** 1.5)),
      ];
    }
  }
}

/** What cleaning takes: dust, lint and films go, what is in the glass stays. */
export const goesWhenCleaned = ({ look }: TrueFeature): boolean =>
  look === 'dust' || look === 'lint' || look === 'film';

/** A face of a state, its light, optics and noise at random within `more`. */
export function randomFace(
  rng: Rng,
  more: Partial<FaceScene> = {},
  state: FaceState = 'mixed',
): RenderedFace {
  const scene = randomScene(rng, more);
  return renderFace(scene, randomFeatures(rng, state, Math.hypot(scene.noise, 0.3)), rng);
}

/** Pitch of the fibers of a row, um. */
const PITCH_UM = 250;

/** A row of fibers side by side, each of its own state; one light, one noise. */
export function randomRow(
  rng: Rng,
  states: readonly FaceState[],
  more: Partial<FaceScene> = {},
): { width: number; height: number; data: Uint8Array; fibers: readonly RenderedFace[] } {
  const umPerPx = more.umPerPx ?? 0.5;
  const tile = Math.round(PITCH_UM / umPerPx);
  const height = more.height ?? 420;
  const scene = randomScene(rng, {
    umPerPx,
    width: tile,
    height,
    slope: [0, 0],
    vignette: 0,
    blurPx: 0.8,
    ...more,
  });
  const spread = Math.hypot(scene.noise, 0.3);
  const fibers = states.map((state) => {
    // Fibers lie off the row's line by a part of a micrometre.
    const centre = [tile / 2 + rng() - 0.5, height / 2 + 2 * rng() - 1] as const;
    const features = randomFeatures(rng, state, spread).filter((f) => f.farthestUm < 100);
    return renderFace({ ...scene, width: tile, centre }, features, rng);
  });
  const width = tile * fibers.length;
  const data = new Uint8Array(width * height);
  fibers.forEach((fiber, i) => {
    for (let y = 0; y < height; y++) {
      data.set(fiber.data.subarray(y * tile, (y + 1) * tile), y * width + i * tile);
    }
  });
  return { width, height, data, fibers };
}

/** How the end of a piece looks under the scope, as a workpiece has it. */
export const stateOfEnd = (end: 'clean' | 'marks-outside' | 'dirty' | 'damaged', rng: Rng): FaceState => {
  if (end === 'clean') return 'clean';
  if (end === 'dirty') return 'dirty';
  if (end === 'marks-outside') return chance(rng, 0.5) ? 'near_limit' : 'scratched';
  return chance(rng, 0.4) ? 'cracked' : chance(rng, 0.5) ? 'chipped' : 'fractured';
};
