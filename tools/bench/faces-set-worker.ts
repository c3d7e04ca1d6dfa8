import { faceCriteria, measureFace } from '@clear-mark/core';
import { FACE_STATES, randomFace, rngFrom } from '@clear-mark/sim';
import { moreFace } from '../../packages/sim/src/more-faces-for-tests.ts';
import { otherFace } from '../../packages/sim/src/other-face-for-tests.ts';
import type { FaceSet } from './face-sets.ts';
import type { Judged } from '../../packages/sim/src/tally-for-tests.ts';

const PC = faceCriteria('sm-pc')!;

export interface SetOrder {
  readonly set: FaceSet;
  readonly seeds: readonly number[];
}

/** Draws and measures faces of a set; only what is needed for counting goes back. */
process.on('message', ({ set, seeds }: SetOrder) => {
  const judged = seeds.map((seed): Judged => {
    const rng = rngFrom(seed);
    if (set === 'other') {
      const { data, width, height, ...truth } = otherFace(rng);
      return { truth, found: measureFace({ data, width, height }, PC) };
    }
    if (set !== 'ours') {
      const { data, width, height, ...truth } = moreFace(set, rng);
      return { truth, found: measureFace({ data, width, height }, PC) };
    }
    // Another light, blur and noise than any that the engine was tried on.
    const more = { blurPx: 0.5 + 1.6 * rng(), noise: 0.9 + 2.4 * rng(), vignette: 0.22 * rng() };
    const { data, width, height, scene, features } = randomFace(
      rng,
      more,
      FACE_STATES[seed % FACE_STATES.length]!,
    );
    return { truth: { ...scene, features }, found: measureFace({ data, width, height }, PC) };
  });
  process.send!(judged, () => process.disconnect());
});
