import { describe, expect, it } from 'vitest';
import { sampleAt, checkImage } from '../pixels/image.ts';
import { smooth, spreadOf } from './smooth.ts';

/** Sums of twelve uniform numbers, less six: near enough to normal of spread 1 (common practice). */
function noise(n: number): Float32Array {
  let state = 12345;
  const next = (): number => {
    state = (state * 48271) % 2147483647;
    return state / 2147483647;
  };
  return Float32Array.from({ length: n }, () => {
    let sum = -6;
    for (let k = 0; k < 12; k++) sum += next();
    return sum;
  });
}

describe('smoothing', () => {
  it('equals the sum over the whole plane of the two-dimensional kernel', () => {
    const side = 15;
    const sigma = 1.3;
    const level = noise(side * side);
    const reach = Math.ceil(3 * sigma);
    const clamp = (v: number): number => Math.min(side - 1, Math.max(0, v));
    const whole = (x: number, y: number): number => {
      let sum = 0;
      let weight = 0;
      for (let dy = -reach; dy <= reach; dy++) {
        for (let dx = -reach; dx <= reach; dx++) {
          const w = Math.exp(-(dx * dx + dy * dy) / (2 * sigma * sigma));
          sum += w * level[clamp(y + dy) * side + clamp(x + dx)]!;
          weight += w;
        }
      }
      return sum / weight;
    };
    const out = smooth(level, side, sigma);
    for (let y = 0; y < side; y++) {
      for (let x = 0; x < side; x++) expect(out[y * side + x]).toBeCloseTo(whole(x, y), 4);
    }
  });
  it('leaves an even picture as it is, and keeps the light of a single point', () => {
    expect(smooth(new Float32Array(81).fill(7), 9, 2).every((v) => Math.abs(v - 7) < 1e-5)).toBe(true);
    const point = new Float32Array(31 * 31);
    point[15 * 31 + 15] = 100;
    expect(smooth(point, 31, 2).reduce((a, b) => a + b, 0)).toBeCloseTo(100, 3);
  });
  it('lowers the spread of noise by 1 / (2 sqrt(pi) sigma), as the kernel squared integrates', () => {
    const side = 160;
    const everywhere = new Uint8Array(side * side).fill(1);
    const level = noise(side * side);
    expect(spreadOf(level, everywhere)).toBeCloseTo(1, 1);
    const expected = 1 / (2 * Math.sqrt(Math.PI) * 1.5);
    expect(spreadOf(smooth(level, side, 1.5), everywhere) / expected).toBeCloseTo(1, 1);
  });
});

describe('the spread', () => {
  it('is not moved by a tenth of the pixels standing out, and looks only inside', () => {
    const level = noise(4000);
    const inside = new Uint8Array(4000).fill(1);
    const clean = spreadOf(level, inside);
    for (let i = 0; i < 4000; i += 10) level[i] = 500;
    expect(spreadOf(level, inside) / clean).toBeLessThan(1.2);
    for (let i = 0; i < 4000; i += 10) inside[i] = 0;
    expect(spreadOf(level, inside) / clean).toBeCloseTo(1, 1);
  });
  it('of nothing, or of an even picture, divides nothing', () => {
    expect(spreadOf(new Float32Array(9), new Uint8Array(9))).toBe(1e-3);
    expect(spreadOf(new Float32Array(9), new Uint8Array(9).fill(1))).toBe(1e-3);
  });
});

describe('between pixels', () => {
  const image = { width: 3, height: 3, data: Uint8Array.from([0, 10, 20, 30, 40, 50, 60, 70, 80]) };
  it('a plane is read exactly, and outside there is nothing', () => {
    for (const [x, y] of [
      [0, 0],
      [0.25, 1.5],
      [1.9, 0.7],
    ] as const) {
      expect(sampleAt(image, x, y)).toBeCloseTo(10 * x + 30 * y, 9);
    }
    expect([sampleAt(image, -0.1, 1), sampleAt(image, 2, 1), sampleAt(image, 1, 2.2)]).toEqual([
      null,
      null,
      null,
    ]);
  });
  it('a picture whose data does not fit its size is refused', () => {
    for (const bad of [
      { ...image, width: 4 },
      { ...image, width: 0, data: new Uint8Array(0) },
      { ...image, height: 1.5 },
    ]) {
      expect(() => checkImage(bad)).toThrow('face.bad_image');
    }
    expect(checkImage(image)).toBe(image);
  });
});
