import { faceCriteria, gradeFace, measureFace, type MeasuredFace } from '@clear-mark/core';
import { beforeAll, describe, expect, it } from 'vitest';
import { normal, randomFace, type RenderedFace, renderFace, rngFrom, type TrueFeature } from './index.ts';

/** Faces that nothing was tuned on, at half the size of a camera's picture, so that the test stays short. */
const SEEDS = Array.from({ length: 12 }, (_, i) => 77_000 + i);
const PC = faceCriteria('sm-pc')!;
let faces: { truth: RenderedFace; found: MeasuredFace }[];

beforeAll(() => {
  faces = SEEDS.map((seed) => {
    const truth = randomFace(rngFrom(seed), { width: 640, height: 480, umPerPx: 0.34 });
    return { truth, found: measureFace(truth, PC) };
  });
}, 600_000);

const distanceTo = (f: TrueFeature, x: number, y: number): number =>
  Math.min(...f.points.map(([px, py]) => Math.hypot(px - x, py - y)));
/** What has to be found: contrast of four times the noise, a pixel and a half wide, wholly inside the cladding. */
const counts = (f: TrueFeature, { scene }: RenderedFace): boolean =>
  Math.abs(f.contrast) >= 4 * scene.noise && f.sizeUm >= 1.5 * scene.umPerPx && f.farthestUm < 59;

function tally(kind: TrueFeature['kind']): { recall: number; precision: number; error: number; n: number } {
  let [found, missed, wrong] = [0, 0, 0];
  const errors: number[] = [];
  for (const { truth, found: measured } of faces) {
    if (!measured.ok) continue;
    const rest = measured.features.filter((f) => f.kind === kind);
    for (const f of truth.features.filter((t) => t.kind === kind)) {
      const reach = kind === 'scratch' ? 3 : f.sizeUm / 2 + 1;
      const at = rest.findIndex((d) =>
        kind === 'scratch'
          ? distanceTo(f, d.xUm, d.yUm) < reach
          : Math.hypot(d.xUm - f.xUm, d.yUm - f.yUm) < reach,
      );
      if (at < 0) missed += counts(f, truth) ? 1 : 0;
      else {
        const [d] = rest.splice(at, 1);
        if (!counts(f, truth)) continue;
        found += 1;
        errors.push(Math.abs(d!.sizeUm / f.sizeUm - 1));
      }
    }
    wrong += rest.length;
  }
  errors.sort((a, b) => a - b);
  return {
    recall: found / (found + missed),
    precision: found / (found + wrong),
    error: errors[Math.floor(errors.length / 2)]!,
    n: found + missed,
  };
}

describe('faces measured against what was rendered', () => {
  it('every one is found, its centre within half a micrometre and its scale within half a percent', () => {
    for (const { truth, found } of faces) {
      if (!found.ok) throw new Error(found.reason);
      const { scene } = truth;
      expect(Math.abs(found.umPerPx / scene.umPerPx - 1)).toBeLessThan(0.005);
      const [x, y] = found.centrePx;
      expect(Math.hypot(x - scene.centre[0], y - scene.centre[1]) * scene.umPerPx).toBeLessThan(0.5);
    }
  });
  it('defects', () => {
    const found = tally('defect');
    expect(found.n).toBeGreaterThan(10);
    expect(found.recall).toBeGreaterThan(0.85);
    expect(found.precision).toBeGreaterThan(0.75);
    expect(found.error).toBeLessThan(0.12);
  });
  it('scratches', () => {
    const found = tally('scratch');
    expect(found.n).toBeGreaterThan(4);
    expect(found.recall).toBeGreaterThan(0.8);
    expect(found.precision).toBeGreaterThan(0.6);
  });
  it('most grades agree, and few bad faces pass', () => {
    const graded = faces.flatMap(({ truth, found }) =>
      found.ok ? [{ want: gradeFace(truth.features, PC).verdict, got: found.grade.verdict }] : [],
    );
    const bad = graded.filter((g) => g.want === 'fail');
    expect(graded.filter((g) => g.want === g.got).length / graded.length).toBeGreaterThan(0.85);
    expect(bad.filter((g) => g.got === 'pass').length / bad.length).toBeLessThan(0.1);
  });
});

describe('what is no face, or cannot be graded, is refused', () => {
  const picture = (width: number, height: number, level: (x: number, y: number) => number) => ({
    ...{ width, height },
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
    const coarse = of({ umPerPx: 0.8, centre: [320, 240] });
    expect(measureFace(coarse, PC)).toMatchObject({ ok: false, reason: 'too_coarse' });
    const soft = renderFace({ ...of({}).scene, blurPx: 5, centre: [320, 240] }, [], rngFrom(2));
    expect(measureFace(soft, PC)).toMatchObject({ ok: false, reason: 'too_blurred' });
  });
  it('a picture whose data does not fit its size is an error', () => {
    expect(() => measureFace({ width: 10, height: 10, data: new Uint8Array(7) }, PC)).toThrow(
      'face.bad_image',
    );
  });
});
