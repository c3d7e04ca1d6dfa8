import { describe, expect, it } from 'vitest';
import { FACE_SETTINGS } from '../settings.ts';
import { faceOf, type Paint, together, UM_PER_PX } from './faces-for-tests.ts';
import { coreOf } from './find-core.ts';
import { coreAt, fitCore, fitMiddle } from './fit-core.ts';

const MIDDLE = 100;
/** A disc with a soft edge about a place, radius and softness in um, positions in pixels. */
const core =
  (radiusUm: number, softUm: number, height: number, [cx, cy] = [0, 0], fall = 0): Paint =>
  (x, y) => {
    const d = Math.hypot(x - cx, y - cy) * UM_PER_PX;
    const edge = 1 / (1 + Math.exp((1.702 * (d - radiusUm)) / softUm));
    return edge * (height + fall * (d / radiusUm) ** 2);
  };
const fit = (paint: Paint, seed?: number) =>
  fitCore(faceOf(paint, seed), MIDDLE, MIDDLE, UM_PER_PX, FACE_SETTINGS);

describe('the core', () => {
  it.each([
    ['bright and sharp', 4.2, 0.3, 25],
    ['dark', 4.6, 0.5, -18],
    ['wide and soft', 5.2, 1.6, 30],
  ])('single-mode, %s: radius to a tenth of a micrometre', (_name, radiusUm, softUm, height) => {
    const found = fit(core(radiusUm, softUm, height))!;
    expect(coreOf(found, UM_PER_PX, FACE_SETTINGS).class).toBe('single_mode');
    expect(Math.abs(found.r * UM_PER_PX - radiusUm)).toBeLessThan(0.15);
    expect(Math.sign(found.height)).toBe(Math.sign(height));
  });
  it.each([25, 31.25])('multimode of %f um, falling off to its edge', (radiusUm) => {
    // The square shows half the face: the same in pixels of twice the size.
    const paint: Paint = (x, y) => core(radiusUm, 0.8, -12, [0, 0], 6)(2 * x, 2 * y);
    const found = fitCore(faceOf(paint), MIDDLE, MIDDLE, 2 * UM_PER_PX, FACE_SETTINGS)!;
    const said = coreOf(found, 2 * UM_PER_PX, FACE_SETTINGS);
    expect(said.class).toBe(radiusUm === 25 ? 'multimode_50' : 'multimode_62');
    expect(Math.abs(said.radiusUm! - radiusUm)).toBeLessThan(0.3);
  });
  it.each([0.3, 0.6])('single-mode where the light round it is uneven, at %f um a pixel', (umPerPx) => {
    // As wide and as faint as a misfit of the light: it is no multimode core beside the bright one.
    const scale = UM_PER_PX / umPerPx;
    const paint: Paint = (x, y) => together(core(5.5, 1, 54), core(26, 0.3, 1.6))(x / scale, y / scale);
    const found = fitCore(faceOf(paint), MIDDLE, MIDDLE, umPerPx, FACE_SETTINGS)!;
    expect(coreOf(found, umPerPx, FACE_SETTINGS).class).toBe('single_mode');
    expect(found.height).toBeGreaterThan(40);
  });
  it('off the centre: where it lies, to a tenth of a pixel', () => {
    const found = fit(core(4.5, 0.5, 25, [2.5, -1.5]))!;
    expect(Math.abs(found.x - 2.5)).toBeLessThan(0.15);
    expect(Math.abs(found.y + 1.5)).toBeLessThan(0.15);
  });
  it.each([1, 2, 3, 4, 5, 6, 7, 8])('none where none is lit: noise %i is no core', (seed) => {
    expect(fit(() => 0, seed)).toBeNull();
  });
  it('dirt beside the middle is no core, and a scratch over one does not move it', () => {
    const dirt: Paint = (x, y) => (Math.hypot(x - 9, y - 2) < 9 ? -30 : 0);
    expect(fit(dirt)).toBeNull();
    const scratch: Paint = (x, y) => (Math.abs(x - y) < 2 ? -25 : 0);
    const found = fit(together(core(4.5, 0.4, 25), scratch))!;
    expect(Math.abs(found.r * UM_PER_PX - 4.5)).toBeLessThan(0.3);
    expect(Math.hypot(found.x, found.y)).toBeLessThan(0.6);
  });
  it('once taken out leaves less than the noise behind, and what lay on it stays', () => {
    const pit: Paint = (x, y) => (Math.hypot(x - 6, y) < 4 ? -20 : 0);
    const face = faceOf(together(core(4.5, 0.5, 25), pit));
    const found = fitCore(face, MIDDLE, MIDDLE, UM_PER_PX, FACE_SETTINGS)!;
    const left = (x: number, y: number): number =>
      face.level[(y + MIDDLE) * face.side + x + MIDDLE]! -
      coreAt(found, Math.hypot(x - found.x, y - found.y));
    const mean = (cx: number): number => {
      let sum = 0;
      for (let y = -2; y <= 2; y++) for (let x = -2; x <= 2; x++) sum += left(cx + x, y) / 25;
      return sum;
    };
    expect(Math.abs(mean(-6))).toBeLessThan(2);
    expect(mean(6)).toBeLessThan(-15);
  });
  it('the dip in the middle of a graded index is found, where there is one', () => {
    const dip: Paint = (x, y) => -9 * Math.exp(-((Math.hypot(x, y) * UM_PER_PX) ** 2) / 4);
    const middle = fitMiddle(faceOf(dip), MIDDLE, MIDDLE, UM_PER_PX, FACE_SETTINGS)!;
    expect(middle.height).toBeLessThan(-5);
    expect(middle.r * UM_PER_PX).toBeLessThan(3);
    expect(
      fitMiddle(
        faceOf(() => 0),
        MIDDLE,
        MIDDLE,
        UM_PER_PX,
        FACE_SETTINGS,
      ),
    ).toBeNull();
  });
});
