import { measureCleave } from '@clear-mark/core';
import { describe, expect, it } from 'vitest';
import { CLEAVE_LOOKS, drawCleave, randomCleaveScene } from './cleave-view.ts';
import { Errors, shareOf } from './errors-for-tests.ts';
import { rngFrom } from './rng.ts';

const COUNT = 48;
const SEED = 40_000;

/** Simulated side views of fresh seeds, measured: goals with room for the few pictures that a test can afford. */
describe('cleaves of the simulated scope', () => {
  const angles = new Errors();
  const scales = new Errors();
  const classes: boolean[] = [];
  let refused = 0;
  for (let i = 0; i < COUNT; i++) {
    const rng = rngFrom(SEED + i);
    const view = drawCleave(randomCleaveScene(rng, { width: 640, height: 480 }), rng);
    const found = measureCleave(view);
    if (!found.ok) {
      refused += 1;
      continue;
    }
    scales.add(found.umPerPx / view.scene.umPerPx - 1, found.umPerPxSd / found.umPerPx);
    for (const truth of view.scene.ends) {
      const end = found.ends.find((e) => e.side === truth.side);
      classes.push(end?.class === truth.look);
      if (!end || truth.look === 'broken' || end.angleDeg === null) continue;
      angles.add(end.angleDeg - truth.angleDeg, end.angleSd!);
    }
  }

  it('are measured, all of them', () => expect(refused).toBe(0));
  it('have angles within 0.03° in the middle, and 0.5° with hackle and chips', () => {
    expect(angles.at(0.5)).toBeLessThan(0.03);
    expect(angles.at(0.95)).toBeLessThan(0.5);
  });
  it('have uncertainties that hold', () => expect(angles.covered).toBeGreaterThanOrEqual(0.93));
  it('have scales within half a percent in the middle', () => {
    expect(scales.at(0.5)).toBeLessThan(0.005);
    expect(scales.at(0.95)).toBeLessThan(0.013);
  });
  it('are called what they are', () => expect(shareOf(classes)).toBeGreaterThanOrEqual(0.88));

  it('are the same for the same seed, and show every look', () => {
    const scene = randomCleaveScene(rngFrom(3), { width: 320, height: 240, umPerPx: 1.5 });
    expect(drawCleave(scene, rngFrom(4)).data).toEqual(drawCleave(scene, rngFrom(4)).data);
    const looks = new Set(Array.from({ length: 60 }, (_, i) => randomCleaveScene(rngFrom(i)).ends[0]!.look));
    expect(looks.size).toBe(CLEAVE_LOOKS.length);
  });
});
