import { jointLoss, measureSplice } from '@clear-mark/core';
import { describe, expect, it } from 'vitest';
import { drawCleave, randomCleaveScene } from './cleave-view.ts';
import { Errors, shareOf } from './errors-for-tests.ts';
import { rngFrom } from './rng.ts';
import { drawSplice, randomSpliceScene, SPLICE_LOOKS } from './splice-view.ts';

const COUNT = 28;
const SEED = 52_000;

/** Simulated joints of fresh seeds, measured: goals with room for the few pictures that a test can afford. */
describe('joints of the simulated splicer', () => {
  const offsets = new Errors();
  const curled = new Errors();
  const all = new Errors();
  const cores = new Errors();
  const classes: boolean[] = [];
  let refused = 0;
  for (let i = 0; i < COUNT; i++) {
    const rng = rngFrom(SEED + i);
    const look = SPLICE_LOOKS[i % SPLICE_LOOKS.length]!;
    const view = drawSplice(randomSpliceScene(rng, { width: 640, height: 480, look }), rng);
    const { scene } = view;
    const found = measureSplice(view, { views: scene.sides.length as 1 | 2 });
    if (!found.ok) {
      refused += 1;
      continue;
    }
    classes.push(found.class === look);
    for (const errors of [all, scene.curlMm ? curled : offsets])
      errors.add(Math.abs(found.offsetUm.value) - view.offsetUm, found.offsetUm.sd);
    const core = found.coreOffsetUm;
    if (core) cores.add(Math.abs(core.value) - view.coreOffsetUm, core.sd);
  }

  it('are measured, all of them, and called what they are', () => {
    expect(refused).toBe(0);
    expect(shareOf(classes)).toBeGreaterThanOrEqual(0.95);
  });
  it('have offsets within 0.3 µm where straight and 0.6 µm where curled, cores within 0.4 µm', () => {
    expect(offsets.at(0.95)).toBeLessThan(0.3);
    expect(curled.at(0.95)).toBeLessThan(0.6);
    expect(cores.at(0.95)).toBeLessThan(0.4);
  });
  it('have uncertainties that hold', () => expect(all.covered).toBeGreaterThanOrEqual(0.85));
});

describe('one joint', () => {
  const drawn = (more: object, seed = 3) => {
    const rng = rngFrom(seed);
    return drawSplice(
      randomSpliceScene(rng, { width: 640, height: 480, umPerPx: 0.8, noise: 1.5, curlMm: null, ...more }),
      rng,
    );
  };
  it('has the loss that the Gaussian modes give for its own step and turn', () => {
    const side = { offsetUm: 4, coreOffsetUm: 4.3, angleDeg: 0, at: 0.5 };
    const found = measureSplice(drawn({ look: 'offset', sides: [side], changeUm: 0 }), { modeFieldUm: 9.2 });
    if (!found.ok) throw new Error(found.reason);
    const own = jointLoss({
      fromRadiusUm: 4.6,
      intoRadiusUm: 4.6,
      offsetUm: found.coreOffsetUm!.value,
      tiltDeg: found.angleDeg.value,
      index: 1.468,
      wavelengthNm: 1310,
    });
    expect(found.lossDb.value).toBeCloseTo(own.lossDb, 9);
    const truth = jointLoss({
      fromRadiusUm: 4.6,
      intoRadiusUm: 4.6,
      offsetUm: 4.3,
      tiltDeg: 0,
      index: 1.468,
      wavelengthNm: 1310,
    });
    expect(Math.abs(found.lossDb.value - truth.lossDb)).toBeLessThan(2.5 * found.lossDb.sd);
  });
  it('two views are told from one by the line between them', () => {
    const side = { offsetUm: 0.4, coreOffsetUm: 0.5, angleDeg: 0.1, at: 0.5 };
    const one = measureSplice(drawn({ look: 'good', sides: [side], changeUm: 0 }));
    const two = measureSplice(drawn({ look: 'good', sides: [side, side], changeUm: 0 }));
    expect([one.ok && one.views.length, two.ok && two.views.length]).toEqual([1, 2]);
  });
  it('two ends that face each other and an empty picture are no joint', () => {
    const rng = rngFrom(5);
    const apart = drawCleave(
      randomCleaveScene(rng, {
        width: 640,
        height: 480,
        umPerPx: 0.9,
        gapUm: 30,
        ends: (['left', 'right'] as const).map((side) => ({
          side,
          look: 'mirror' as const,
          angleDeg: 0.3,
          axisDeg: 1,
          edge: 'up' as const,
          sizeUm: 8,
        })),
      }),
      rng,
    );
    expect(measureSplice(apart)).toMatchObject({ ok: false, reason: 'gap' });
    const wall = { width: 320, height: 240, data: new Uint8Array(320 * 240).fill(180) };
    expect(measureSplice(wall)).toEqual({ ok: false, reason: 'no_fiber' });
    expect(() => measureSplice({ width: 10, height: 10, data: new Uint8Array(3) })).toThrow(/face.bad_image/);
  });
  it('is the same for the same seed', () => {
    const scene = randomSpliceScene(rngFrom(3), { width: 320, height: 240 });
    expect(drawSplice(scene, rngFrom(4)).data).toEqual(drawSplice(scene, rngFrom(4)).data);
  });
});
