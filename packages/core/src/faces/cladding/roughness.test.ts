import { describe, expect, it } from 'vitest';
import { numbers } from '../../numbers-for-tests.ts';
import { FACE_SETTINGS } from '../settings.ts';
import { findCladding } from './find-cladding.ts';
import { RIM, slanting } from './grain-for-tests.ts';
import { roughnessOf, rougherOutside } from './roughness.ts';

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
    const data = Uint8Array.from({ length: 640 * 480 }, () => 100 + 60 * next());
    expect(findCladding({ width: 640, height: 480, data }, FACE_SETTINGS).state).toBe('none');
  });
});
