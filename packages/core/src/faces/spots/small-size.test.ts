import { describe, expect, it } from 'vitest';
import { diameterBehindBlur, halfHeightWidth } from './small-size.ts';

const SIDE = 61;
/** A disc blurred by a Gaussian, by summing over its pixels at a fifth of a pixel. */
function blurredDisc(diameter: number, blur: number): Float32Array {
  const level = new Float32Array(SIDE * SIDE);
  const step = 0.2;
  const reach = diameter / 2;
  for (let sy = -reach; sy <= reach; sy += step) {
    for (let sx = -reach; sx <= reach; sx += step) {
      if (Math.hypot(sx, sy) > reach) continue;
      for (let y = 10; y < SIDE - 10; y++) {
        for (let x = 10; x < SIDE - 10; x++) {
          const d2 = (x - 30 - sx) ** 2 + (y - 30 - sy) ** 2;
          level[y * SIDE + x]! -= Math.exp(-d2 / (2 * blur * blur)) * step * step;
        }
      }
    }
  }
  return level;
}

describe('how wide a small spot is', () => {
  it.each([
    [3, 1.3],
    [4, 1.5],
    [7, 1.2],
    [9, 2],
  ])('a disc of %f px behind a blur of %f px is given back to a third of the blur', (diameter, blur) => {
    const seen = halfHeightWidth(blurredDisc(diameter, blur), SIDE, 30, 30, -1, 20)!;
    expect(Math.abs(diameterBehindBlur(seen.wide, blur) - diameter)).toBeLessThan(0.34 * blur);
    expect(Math.abs(seen.across / seen.wide - 1)).toBeLessThan(0.05);
  });
  it('what is no wider than the blur has no width of its own', () => {
    expect(diameterBehindBlur(2.3, 1)).toBe(0);
    expect(diameterBehindBlur(2, 0)).toBe(2);
    expect(diameterBehindBlur(40, 1)).toBe(40);
  });
  it('what does not fall to half within reach is none', () => {
    expect(halfHeightWidth(new Float32Array(SIDE * SIDE).fill(-5), SIDE, 30, 30, -1, 8)).toBeNull();
    expect(halfHeightWidth(new Float32Array(SIDE * SIDE), SIDE, 30, 30, -1, 8)).toBeNull();
  });
});
