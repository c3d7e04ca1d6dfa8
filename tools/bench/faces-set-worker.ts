import { faceCriteria, type GreyImage, measureFace } from '@clear-mark/core';
import { FACE_STATES, randomFace, rngFrom } from '@clear-mark/sim';
import { moreFace } from '../../packages/sim/src/more-faces-for-tests.ts';
import { otherFace } from '../../packages/sim/src/other-face-for-tests.ts';
import type { FaceSet } from './face-sets.ts';
import { scaled } from '../../packages/core/src/faces/settings-for-tests.ts';
import { plainDetector } from './plain-face.ts';
import type { Judged, KnownFace } from '../../packages/sim/src/tally-for-tests.ts';

const PC = faceCriteria('sm-pc')!;

export interface SetOrder {
  readonly set: FaceSet;
  readonly seeds: readonly number[];
  /** Whether the plain detector looks at each of them as well. */
  readonly plain?: boolean;
  /** Thresholds, and how many times as large each is tried, one at a time. */
  readonly tried?: readonly (readonly [threshold: string, times: number])[];
}
export interface SetReply {
  readonly ours: readonly Judged[];
  readonly plain: readonly Judged[];
  /** By each threshold that was tried, in their order. */
  readonly tried: readonly (readonly Judged[])[];
}

function drawn(set: FaceSet, seed: number): { readonly image: GreyImage; readonly truth: KnownFace } {
  const rng = rngFrom(seed);
  if (set === 'other') {
    const { data, width, height, ...truth } = otherFace(rng);
    return { image: { data, width, height }, truth };
  }
  if (set !== 'ours') {
    const { data, width, height, ...truth } = moreFace(set, rng);
    return { image: { data, width, height }, truth };
  }
  // Another light, blur and noise than any that the engine was tried on.
  const more = { blurPx: 0.5 + 1.6 * rng(), noise: 0.9 + 2.4 * rng(), vignette: 0.22 * rng() };
  const { data, width, height, scene, features } = randomFace(
    rng,
    more,
    FACE_STATES[seed % FACE_STATES.length]!,
  );
  return { image: { data, width, height }, truth: { ...scene, features } };
}

/** Draws and measures faces of a set; only what is needed for counting goes back. */
process.on('message', (order: SetOrder) => {
  void judge(order).then((reply) => process.send!(reply, () => process.disconnect()));
});

async function judge({ set, seeds, plain = false, tried = [] }: SetOrder): Promise<SetReply> {
  const detect = plain ? await plainDetector() : null;
  const settings = tried.map(([threshold, times]) => scaled(threshold, times));
  const reply = { ours: [] as Judged[], plain: [] as Judged[], tried: tried.map((): Judged[] => []) };
  for (const seed of seeds) {
    const { image, truth } = drawn(set, seed);
    reply.ours.push({ truth, found: measureFace(image, PC) });
    if (detect) reply.plain.push({ truth, found: detect(image, PC) });
    settings.forEach((by, k) =>
      reply.tried[k]!.push({ truth, found: measureFace(image, PC, undefined, by) }),
    );
  }
  return reply;
}
