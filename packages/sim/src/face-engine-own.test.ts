import { measureFace } from '@clear-mark/core';
import { describe } from 'vitest';
import { heldToTruth, PC } from './held-to-truth-for-tests.ts';
import { FACE_STATES, randomFace, rngFrom } from './index.ts';
import type { Judged } from './tally-for-tests.ts';

/** Faces that nothing was tuned on, drawn here, at half the size of a camera's picture, so that the test stays short. */
function ours(seed: number, count: number): Judged[] {
  return Array.from({ length: count }, (_, i) => {
    const rng = rngFrom(seed + i);
    const scene = { width: 640, height: 480, umPerPx: 0.3 + 0.05 * rng(), noise: 1.2 + 1.6 * rng() };
    const face = randomFace(rng, scene, FACE_STATES[i % FACE_STATES.length]!);
    const truth = { ...face.scene, features: face.features };
    return { truth, found: measureFace(face, PC) };
  });
}

describe('faces of the shipped renderer, against what was drawn', () => heldToTruth(() => ours(77_000, 32)));
