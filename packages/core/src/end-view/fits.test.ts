import { describe, expect, it } from 'vitest';
import fits from '../../fixtures/fits.json';
import { homographyOf, taken } from './camera.ts';
import { fitCircle } from '../faces/cladding/fit-circle.ts';
import { edgeLevels, edgeSpread } from '../side-view/edge-shift.ts';
import type { FiberEdges } from '../side-view/fiber-edges.ts';
import { robustFit } from '../side-view/robust.ts';

// All by numpy and scipy, fixtures/make-fits.py.
describe('fits against a reference library', () => {
  it.each(fits.lines)('a robust line, slope $slope', ({ x, y, height, slope }) => {
    const fit = robustFit(
      x.map((v) => [1, v]),
      y,
      { rounds: 60 },
    )!;
    // A hundredth of the spread of 0.2: rounds end where a step no longer counts.
    expect(Math.abs(fit.coefficients[0]! - height!)).toBeLessThan(0.002);
    expect(Math.abs(fit.coefficients[1]! - slope!)).toBeLessThan(0.002);
  });
  it.each(fits.circles)('a robust circle through an arc with a dented edge', ({ x, y, guess, found }) => {
    const { circle } = fitCircle(x, y, { x: guess[0]!, y: guess[1]!, r: guess[2]! })!;
    expect([circle.x, circle.y, circle.r].map((v, i) => Math.abs(v - found[i]!))).toEqual([
      expect.closeTo(0, 2),
      expect.closeTo(0, 2),
      expect.closeTo(0, 2),
    ]);
  });
  it.each(fits.homographies)(
    'a homography takes places where it should',
    ({ from, to, asked, taken: there }) => {
      const h = homographyOf(
        from.map(([xMm, yMm]) => ({ xMm: xMm!, yMm: yMm! })),
        to.map(([x, y]) => ({ x: x!, y: y! })),
      )!;
      asked.forEach(([xMm, yMm], i) => {
        const { x, y } = taken(h, { xMm: xMm!, yMm: yMm! });
        expect(x).toBeCloseTo(there[i]![0]!, 6);
        expect(y).toBeCloseTo(there[i]![1]!, 6);
      });
    },
  );
});

describe('the edge of an opaque strip in coherent light', () => {
  const { from, step, light, half_at: halfAt } = fits.edge;
  const intensity = (w: number): number => {
    const at = Math.min(light.length - 2, Math.max(0, (w - from) / step));
    const i = Math.floor(at);
    return light[i]! + (at - i) * (light[i + 1]! - light[i]!);
  };
  it('the integral gives a quarter of the light at the edge and its first fringe beside it', () => {
    expect(intensity(0)).toBeCloseTo(0.25, 6);
    expect(Math.max(...light)).toBeCloseTo(1.3704, 3);
  });
  it.each([1.6, 2.5, 4])(
    'lies inside of half the light by what the integral says, %d pixels a unit',
    (unit) => {
      const width = 400;
      const height = 300;
      const upper = 90.3;
      const lower = 210.3;
      const data = new Uint8Array(width * height);
      for (let y = 0; y < height; y++) {
        // Both edges of the strip throw their own fringe outwards; inside of it is shadow.
        const away = y < 150 ? upper - y : y - lower;
        data.fill(Math.round(Math.min(255, 20 + 130 * intensity(away / unit))), y * width, (y + 1) * width);
      }
      const halfLight = halfAt * unit;
      const fiber: FiberEdges = {
        side: 'left',
        origin: 390,
        middle: 150.3,
        slope: 0,
        bend: 0,
        slopeSd: 0,
        width: lower - upper + 2 * halfLight,
        widthSd: 0.05,
        light: 150,
        dark: 20,
        near: 0,
        far: 390,
        points: [],
      };
      const image = { width, height, data };
      expect(edgeLevels(image, fiber)!.over).toBeGreaterThan(0.2);
      const spread = edgeSpread(image, fiber)!;
      expect(spread.inside).toBeCloseTo(halfLight, 0);
      expect(Math.abs(spread.inside - halfLight)).toBeLessThan(0.25);
    },
  );
});
