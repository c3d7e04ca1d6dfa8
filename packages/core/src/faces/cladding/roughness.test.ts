import { describe, expect, it } from 'vitest';
import { numbers } from '../../numbers-for-tests.ts';
import type { GreyImage } from '../pixels/image.ts';
import { FACE_SETTINGS } from '../settings.ts';
import { findCladding } from './find-cladding.ts';
import { roughnessOf, rougherOutside } from './roughness.ts';

const WIDTH = 640;
const HEIGHT = 480;
const RIM = { x: 330, y: 232, r: 120 };

/** Ferrule of a grain, glass of the same light, and a line of adhesive that the light shows on one side only. */
function slanting(seed: number, grain: number, ring: number): GreyImage {
  const next = numbers(seed);
  const noise = (): number => next() + next() + next() + next() - 2;
  // Grain as of a ground surface: noise that is alike over a few pixels.
  const coarse = Float32Array.from({ length: WIDTH * HEIGHT }, noise);
  const data = new Uint8Array(WIDTH * HEIGHT);
  for (let y = 0; y < HEIGHT; y++) {
    for (let x = 0; x < WIDTH; x++) {
      let rough = 0;
      for (let dy = -2; dy <= 2; dy++)
        for (let dx = -2; dx <= 2; dx++)
          rough += coarse[((y + dy + HEIGHT) % HEIGHT) * WIDTH + ((x + dx + WIDTH) % WIDTH)]! / 5;
      const dx = x - RIM.x;
      const dy = y - RIM.y;
      const d = Math.hypot(dx, dy);
      const outside = 1 / (1 + Math.exp(-(d - RIM.r) / 0.8));
      const line = (Math.exp(-(((d - RIM.r - 1.5) / 1.4) ** 2)) * Math.max(0, -dx - 0.6 * dy)) / d;
      data[y * WIDTH + x] = Math.round(120 + outside * grain * rough - ring * line + noise());
    }
  }
  return { width: WIDTH, height: HEIGHT, data };
}

describe('glass that is as bright as its ferrule', () => {
  it.each([1, 2, 3])('lies where the grain ends: found by it where the rim hardly shows, %i', (seed) => {
    const found = findCladding(slanting(seed, 14, 40), FACE_SETTINGS);
    expect(found.state).toBe('found');
    if (found.state !== 'found') return;
    const { x, y, r } = found.cladding.circle;
    expect(Math.hypot(x - RIM.x, y - RIM.y)).toBeLessThan(3);
    expect(Math.abs(r / RIM.r - 1)).toBeLessThan(0.02);
  });

  it('is smoother than what is round it on all sides; a place in the grain is not', () => {
    const rough = roughnessOf(slanting(4, 14, 40));
    expect(rougherOutside(rough, RIM, 1.5)).toBe(1);
    expect(rougherOutside(rough, { x: 110, y: 110, r: 60 }, 1.5)).toBeLessThan(0.3);
  });

  it.each([5, 6])('grain alone is no face, %i', (seed) => {
    const next = numbers(seed);
    const data = Uint8Array.from({ length: WIDTH * HEIGHT }, () => 100 + 60 * next());
    expect(findCladding({ width: WIDTH, height: HEIGHT, data }, FACE_SETTINGS).state).toBe('none');
  });
});
