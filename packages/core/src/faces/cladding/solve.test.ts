import { describe, expect, it } from 'vitest';
import { fitCircle } from './fit-circle.ts';
import { fitRimProfile } from './rim-profile.ts';
import { solve } from '../pixels/solve.ts';

describe('small systems', () => {
  it('solves, exchanges rows, and says when it cannot', () => {
    const found = solve(
      [
        [2, 1],
        [1, 3],
      ],
      [3, 5],
    )!;
    expect(found[0]).toBeCloseTo(0.8, 12);
    expect(found[1]).toBeCloseTo(1.4, 12);
    expect(
      solve(
        [
          [0, 1],
          [1, 0],
        ],
        [2, 3],
      ),
    ).toEqual([3, 2]);
    expect(
      solve(
        [
          [1, 2],
          [2, 4],
        ],
        [1, 2],
      ),
    ).toBeNull();
  });
});

describe('a circle through points', () => {
  const around = (n: number, r: (t: number) => number) => {
    const ts = Array.from({ length: n }, (_, i) => (i / n) * 2 * Math.PI);
    return { xs: ts.map((t) => 40 + r(t) * Math.cos(t)), ys: ts.map((t) => 30 + r(t) * Math.sin(t)) };
  };
  it('exact points, from a guess that is off', () => {
    const { xs, ys } = around(60, () => 20);
    const { circle, spread } = fitCircle(xs, ys, { x: 43, y: 28, r: 17 })!;
    expect(circle.x).toBeCloseTo(40, 8);
    expect(circle.y).toBeCloseTo(30, 8);
    expect(circle.r).toBeCloseTo(20, 8);
    expect(spread).toBeLessThan(1e-6);
  });
  it('a chipped tenth of the edge does not pull it', () => {
    const { xs, ys } = around(200, (t) => (t < 0.63 ? 15 : 20 + 0.05 * Math.sin(40 * t)));
    const { circle } = fitCircle(xs, ys, { x: 40, y: 30, r: 19 })!;
    expect(Math.hypot(circle.x - 40, circle.y - 30)).toBeLessThan(0.02);
    expect(circle.r).toBeCloseTo(20, 1);
    expect(fitCircle(xs.slice(0, 5), ys, { x: 0, y: 0, r: 1 })).toBeNull();
  });
});

describe('the rim of a cladding', () => {
  // The normal distribution function by summing the density, to check the fit's own rational form.
  const step = (d: number, at: number, blur: number): number => {
    let sum = 0;
    for (let z = -6; z < (d - at) / blur; z += 0.001) sum += Math.exp((-z * z) / 2) * 0.001;
    return sum / Math.sqrt(2 * Math.PI);
  };
  const profile = (ring: number, dark: number) => {
    const at = Array.from({ length: 121 }, (_, i) => 170 + i * 0.5);
    const level = at.map((d) => {
      const a = step(d, 200, 1.4);
      const b = step(d, 200 + ring, 1.4);
      return 140 * (1 - a) + dark * (a - b) + 165 * b;
    });
    return { at, level };
  };
  it('a plain step', () => {
    const found = fitRimProfile(profile(0, 0), 202)!;
    expect(found.radius).toBeCloseTo(200, 2);
    expect(found.blur).toBeCloseTo(1.4, 2);
    expect(found.ring).toBeNull();
  });
  it('a thin dark ring is not taken for the edge', () => {
    const found = fitRimProfile(profile(4, 70), 202)!;
    expect(found.radius).toBeCloseTo(200, 1);
    expect(found.ring!.width).toBeCloseTo(4, 1);
  });
  it('no edge, no rim', () => {
    const { at } = profile(0, 0);
    expect(fitRimProfile({ at, level: at.map(() => 120) }, 200)).toBeNull();
    expect(fitRimProfile({ at: [1], level: [1] }, 1)).toBeNull();
  });
});
