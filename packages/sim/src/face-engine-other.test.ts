import { measureFace } from '@clear-mark/core';
import { describe } from 'vitest';
import { heldToTruth, PC } from './held-to-truth-for-tests.ts';
import { rngFrom } from './index.ts';
import { otherFace } from './other-face-for-tests.ts';
import type { Judged } from './tally-for-tests.ts';

/** By the second renderer, of another light, optics, surface and shapes. */
function others(seed: number, count: number): Judged[] {
  return Array.from({ length: count }, (_, i) => {
    const rng = rngFrom(seed + i);
    const truth = otherFace(rng, 640, 480, 0.3 + 0.05 * rng());
    return { truth, found: measureFace(truth, PC) };
  });
}

describe('faces of a second, different one, against what was drawn', () =>
  heldToTruth(() => others(91_000, 28)));
