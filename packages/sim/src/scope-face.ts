import { type Call, type FaceCriteria, gradeFace, isNearLimit, passProbability } from '@clear-mark/core';
import type { TrueFeature } from './face-features.ts';
import { type FaceScene, randomScene } from './face.ts';
import { type FaceState, goesWhenCleaned, randomFeatures } from './random-face.ts';
import { rngFrom } from './rng.ts';

/** What lies under the simulated scope: the same seed is the same face. */
export interface ScopeFace {
  readonly seed: number;
  readonly state: FaceState;
  /** Share of what was loose that is still there, 0 to 1: 1 before it is cleaned; the same pieces go first each time. */
  readonly loose: number;
  readonly kind: 'single_mode' | 'multimode';
  /** Height of the picture, px; it is a third wider. */
  readonly height: number;
}

/** The scene and the features of a face under the scope, from which it is drawn. */
export function scopeFace({ seed, state, loose, kind, height }: ScopeFace): {
  scene: FaceScene;
  features: TrueFeature[];
} {
  const rng = rngFrom(seed);
  const width = Math.round((height * 4) / 3);
  const umPerPx = (150 + 60 * rng()) / height;
  const core = kind === 'multimode' ? 25 : 4.5;
  const first = randomScene(rng, { width, height, umPerPx });
  const scene: FaceScene = {
    ...first,
    centre: [width * (0.48 + 0.04 * rng()), height * (0.49 + 0.02 * rng())],
    core: { radiusUm: core, level: first.claddingLevel + 24 },
  };
  const features = randomFeatures(rng, state, scene.noise).filter((feature) => {
    const sticks = rng();
    return !goesWhenCleaned(feature) || sticks < loose;
  });
  return { scene, features };
}

/** States of the ends of a series: half of them near a limit, where the eye is tested. */
const STATES: readonly FaceState[] = [
  'near_limit',
  'mixed',
  'near_limit',
  'scratched',
  'clean',
  'near_limit',
  'dirty',
  'chipped',
  'cracked',
];
/** Expanded uncertainty of a size in such a picture, um: what the engine says of most of them. */
const TYPICAL_UM = 0.3;
/** Seeds that are looked at for each face that is wanted. */
const TRIES = 60;

/**
 * Faces for a series of blind calls, from a first seed on: half of them good and half bad by the table, and of each half as
 * many near the limit, by how probable a pass is at the uncertainty of such a picture. In the order in which they were
 * found; where the seeds hold too few, what was found.
 */
export function facesForCalls(
  first: number,
  count: number,
  table: FaceCriteria,
  height = 480,
): { readonly face: ScopeFace; readonly verdict: Call; readonly isNear: boolean }[] {
  const half = { fail: Math.floor(count / 2), pass: Math.ceil(count / 2) };
  const wanted = {
    fail: { near: Math.ceil(half.fail / 2), sure: Math.floor(half.fail / 2) },
    pass: { near: Math.ceil(half.pass / 2), sure: Math.floor(half.pass / 2) },
  };
  const found: { face: ScopeFace; verdict: Call; isNear: boolean }[] = [];
  for (let i = 0; i < TRIES * count && found.length < count; i++) {
    const state = STATES[i % STATES.length]!;
    const face: ScopeFace = { seed: first + i, state, loose: 1, kind: 'single_mode', height };
    const features = scopeFace(face).features.map((f) => ({ ...f, uncertaintyUm: TYPICAL_UM }));
    const { verdict } = gradeFace(features, table);
    const isNear = isNearLimit(passProbability(features, table));
    const open = wanted[verdict];
    if (open[isNear ? 'near' : 'sure'] === 0) continue;
    open[isNear ? 'near' : 'sure'] -= 1;
    found.push({ face, verdict, isNear });
  }
  return found;
}
