import { measureFace, measureRow } from '@clear-mark/core';
import { describe, expect, it } from 'vitest';
import { PC } from './held-to-truth-for-tests.ts';
import { normal, randomDefect, randomFace, randomRow, renderFace, rngFrom } from './index.ts';

describe('what else a picture shows', () => {
  const base = {
    width: 640,
    height: 480,
    umPerPx: 0.32,
    centre: [322.3, 241.8] as const,
    ring: { widthUm: 0, level: 0 },
  };
  const coreOf = (radiusUm: number, by: number): string => {
    const scene = randomFace(rngFrom(3), { ...base, claddingLevel: 130, ferruleLevel: 165 }).scene;
    const found = measureFace(
      renderFace({ ...scene, core: { radiusUm, level: 130 + by } }, [], rngFrom(4)),
      PC,
    );
    return found.ok ? found.core.class : found.reason;
  };
  it.each([
    [4.5, 25, 'single_mode'],
    [4.5, -20, 'single_mode'],
    [25, 20, 'multimode_50'],
    [31.25, 20, 'multimode_62'],
    [4.5, 0, 'unlit'],
  ])('a core of radius %f um and %i levels is %s', (radiusUm, by, name) => {
    expect(coreOf(radiusUm, by)).toBe(name);
  });
  it.each([
    [2, 0, 0],
    [2.4, 1, 0.6],
    [3, -1.5, 1],
    [6, 2.5, -2],
  ])('a pit of %f um on the core, %f and %f off its centre, is found and fails it', (sizeUm, x, y) => {
    const { scene } = randomFace(rngFrom(3), { ...base, claddingLevel: 130, ferruleLevel: 165, noise: 1.8 });
    const lit = { ...scene, core: { radiusUm: 4.5, level: 155 } };
    const found = measureFace(
      renderFace(lit, [randomDefect(rngFrom(8), sizeUm, -40, [x, y])], rngFrom(4)),
      PC,
    );
    if (!found.ok) throw new Error(found.reason);
    expect(found.grade.zones[0]).toMatchObject({ zone: 'A', verdict: 'fail' });
    const [pit] = found.features;
    expect(Math.hypot(pit!.xUm - x, pit!.yUm - y)).toBeLessThan(1);
    expect(Math.abs(pit!.sizeUm / sizeUm - 1)).toBeLessThan(0.35);
  });
  it('dirt on the ferrule counts in the contact zone, as far as the picture reaches', () => {
    const face = randomFace(rngFrom(11), { ...base, umPerPx: 0.5, noise: 1.5 }, 'clean');
    const speck = (sizeUm: number, xUm: number) => {
      const points = Array.from({ length: 24 }, (_, i) => {
        const t = (i / 24) * 2 * Math.PI;
        return [xUm + (sizeUm / 2) * Math.cos(t), (sizeUm / 2) * Math.sin(t)] as const;
      });
      const edge = { nearestUm: xUm - sizeUm / 2, farthestUm: xUm + sizeUm / 2 };
      const look = { kind: 'defect', look: 'dust', strokeUm: null, softUm: 0 } as const;
      return { ...look, ...edge, sizeUm, xUm, yUm: 0, contrast: -40, points };
    };
    const found = measureFace(renderFace(face.scene, [speck(16, 95)], rngFrom(2)), PC);
    if (!found.ok) throw new Error(found.reason);
    const [dirt] = found.features.filter((f) => f.xUm > 68);
    expect(dirt!.sizeUm).toBeGreaterThan(13.5);
    expect(dirt!.sizeUm).toBeLessThan(18.5);
    expect(found.grade.zones.map((z) => z.verdict)).toEqual(['pass', 'pass', 'pass', 'fail']);
    expect(found.contactSeen).toBeLessThan(1);
    expect(found.contactSeen).toBeGreaterThan(0.8);
  });
  it('each fiber of a row is found, numbered from the left and graded on core and cladding', () => {
    const row = randomRow(rngFrom(21), ['clean', 'cracked', 'clean', 'fractured', 'clean'], { height: 330 });
    const found = measureRow(row, PC);
    if (!found.ok) throw new Error(found.reason);
    expect(found.fibers.map((f) => f.fiber)).toEqual([1, 2, 3, 4, 5]);
    expect(found.fibers.map((f) => f.face.ok && f.face.grade.verdict)).toEqual([
      'pass',
      'fail',
      'pass',
      'fail',
      'pass',
    ]);
    expect(found.verdict).toBe('fail');
    found.fibers.forEach((f, i) => {
      const [x, y] = row.fibers[i]!.scene.centre;
      expect(Math.hypot(f.centrePx[0] - x - 500 * i, f.centrePx[1] - y)).toBeLessThan(1);
      expect(f.face.ok && f.face.grade.zones.map((z) => z.zone)).toEqual(['A', 'B']);
    });
  });
  it('a very fine picture gives the same sizes in its own pixels', () => {
    const face = randomFace(
      rngFrom(31),
      { width: 1500, height: 1200, umPerPx: 0.12, blurPx: 2, noise: 2 },
      'clean',
    );
    const found = measureFace(face, PC);
    if (!found.ok) throw new Error(found.reason);
    expect(Math.abs(found.umPerPx / 0.12 - 1)).toBeLessThan(0.005);
    expect(
      Math.hypot(found.centrePx[0] - face.scene.centre[0], found.centrePx[1] - face.scene.centre[1]),
    ).toBeLessThan(3);
  });
});

describe('what is no face, or cannot be graded, is refused', () => {
  const picture = (width: number, height: number, level: (x: number, y: number) => number) => ({
    width,
    height,
    data: Uint8Array.from({ length: width * height }, (_, i) => level(i % width, Math.floor(i / width))),
  });
  const rng = rngFrom(5);
  it.each<[string, ReturnType<typeof picture>, string]>([
    ['noise', picture(400, 300, () => 128 + normal(rng, 0, 20)), 'no_face'],
    ['a slope', picture(400, 300, (x) => x / 2), 'no_face'],
    ['stripes', picture(400, 300, (x) => (x % 40 < 20 ? 90 : 160)), 'no_face'],
    [
      'a square',
      picture(400, 300, (x, y) => (x > 120 && x < 280 && y > 70 && y < 230 ? 90 : 160)),
      'no_face',
    ],
    ['darkness', picture(400, 300, () => 4), 'too_dark'],
    ['a stamp', picture(80, 60, () => 128), 'too_small'],
  ])('%s', (_, image, reason) => {
    expect(measureFace(image, PC)).toEqual({ ok: false, reason });
  });
  it('a face that is cut off, too coarse or too blurred', () => {
    const base = { width: 640, height: 480 };
    const of = (more: object) => randomFace(rngFrom(9), { ...base, umPerPx: 0.34, ...more });
    expect(measureFace(of({ centre: [150, 240] }), PC)).toMatchObject({ ok: false });
    const coarse = of({ umPerPx: 1.1, centre: [320, 240] });
    expect(measureFace(coarse, PC)).toMatchObject({ ok: false, reason: 'too_coarse' });
    const soft = renderFace({ ...of({}).scene, blurPx: 6, centre: [320, 240] }, [], rngFrom(2));
    expect(measureFace(soft, PC)).toMatchObject({ ok: false, reason: 'too_blurred' });
  });
  it('a picture whose data does not fit its size is an error', () => {
    expect(() => measureFace({ width: 10, height: 10, data: new Uint8Array(7) }, PC)).toThrow(
      'face.bad_image',
    );
  });
});
