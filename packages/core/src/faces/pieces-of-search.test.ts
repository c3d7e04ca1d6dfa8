import { FACE_SETTINGS } from './settings.ts';
import { describe, expect, it } from 'vitest';
import { enclosingCircle } from './pixels/enclosing-circle.ts';
import { numbers } from '../numbers-for-tests.ts';
import { curveThrough, onCurve } from './lines/follow-curve.ts';
import { halved, fullResolutionIndex } from './pixels/halve.ts';
import { hullOf } from './pixels/hull.ts';
import { type GreyImage, inGrey, shrink } from './pixels/image.ts';
import { fitLight, lightOfRow } from './cladding/light.ts';
import { barAt, fitBar, phi } from './pixels/line-profile.ts';
import { lineResponse, DIRECTIONS } from './lines/line-response.ts';
import { middleOf, selectNth } from './pixels/quantile.ts';
import { ringsOf } from './pixels/rings.ts';

describe('selection', () => {
  it('gives every place of the order, as a sort does', () => {
    const next = numbers(3);
    for (const n of [1, 2, 5, 40, 333]) {
      const values = Float32Array.from({ length: n }, () => Math.floor(20 * next()) / 4);
      const sorted = [...values].sort((a, b) => a - b);
      for (let k = 0; k < n; k += 1 + Math.floor(n / 17)) {
        expect(selectNth(values.slice(), k)).toBe(sorted[k]);
      }
      expect(middleOf(values.slice())).toBe(sorted[n >> 1]);
    }
  });
  it('of nothing is 0, beyond the ends is the end', () => {
    expect(middleOf(new Float32Array(0))).toBe(0);
    expect(selectNth(Float32Array.of(3, 1, 2), 9)).toBe(3);
    expect(selectNth(Float32Array.of(3, 1, 2), -4)).toBe(1);
  });
});

describe('hull', () => {
  it('of a square with points in it and on its edges is its corners', () => {
    const points = [
      [0, 0],
      [4, 0],
      [4, 4],
      [0, 4],
      [2, 2],
      [2, 0],
      [1, 3],
    ] as const;
    expect([...hullOf(points)].sort().join(' ')).toBe('0,0 0,4 4,0 4,4');
  });
  it('leaves the smallest enclosing circle what it is', () => {
    const next = numbers(11);
    for (let round = 0; round < 30; round++) {
      const points = Array.from({ length: 60 }, () => [30 * next(), 12 * next()] as const);
      expect(enclosingCircle(hullOf(points))!.r).toBeCloseTo(enclosingCircle(points)!.r, 9);
    }
  });
  it('of few or equal points is those', () => {
    expect(hullOf([])).toEqual([]);
    expect(hullOf([[1, 2]])).toEqual([[1, 2]]);
    expect(enclosingCircle(hullOf(Array.from({ length: 5 }, () => [2, 2] as const)))!.r).toBe(0);
  });
});

describe('light', () => {
  const circle = { x: 120, y: 100, r: 60 };
  const light = (x: number, y: number): number => {
    const u = (x - circle.x) / circle.r;
    const v = (y - circle.y) / circle.r;
    return 120 + 9 * u - 5 * v - 7 * u * u + 4 * u * v;
  };
  const picture = (spoil: (x: number, y: number) => number): GreyImage => ({
    width: 240,
    height: 200,
    data: Uint8Array.from({ length: 240 * 200 }, (_, i) => {
      const x = i % 240;
      const y = Math.floor(i / 240);
      return Math.round(light(x, y) + spoil(x, y));
    }),
  });
  const worst = (image: GreyImage): number => {
    const found = fitLight(image, circle, 0.5, 0.95, 2)!;
    const row = new Float32Array(120);
    let most = 0;
    for (let y = 60; y <= 140; y += 10) {
      lightOfRow(found, y, 60, row);
      row.forEach((v, i) => (most = Math.max(most, Math.abs(v - light(60 + i, y)))));
    }
    return most;
  };
  it('of the second degree is found to a fraction of a level', () => {
    expect(worst(picture(() => 0))).toBeLessThan(0.3);
  });
  it('a quarter of the ring that is broken does not bend it', () => {
    expect(worst(picture((x, y) => (x > 125 && y > 100 ? -45 : 0)))).toBeLessThan(1);
  });
  it('too little of it in the picture is no light', () => {
    expect(
      fitLight(
        picture(() => 0),
        { x: 500, y: 400, r: 60 },
        0.5,
        1,
        2,
      ),
    ).toBeNull();
  });
});

describe('a bar across a line', () => {
  const places = Array.from({ length: 65 }, (_, k) => (k - 32) * 0.5);
  it.each([
    [0.8, 1.2],
    [2, 1.2],
    [3.5, 0.9],
    [9, 1.6],
  ])('of width %f under a blur of %f is given back to 2 %%', (width, blur) => {
    const level = places.map((n) => 12 - 20 * barAt(n - 0.4, width, blur));
    const bar = fitBar(places, level, blur, 16);
    expect(Math.abs(bar.width / width - 1)).toBeLessThan(0.02);
    expect(Math.abs(bar.height / -20 - 1)).toBeLessThan(0.02);
    expect(bar.offset).toBeCloseTo(0.4, 1);
    expect(bar.base).toBeCloseTo(12, 1);
  });
  // Abramowitz and Stegun, Handbook of Mathematical Functions, table 26.1.
  it.each([
    [0, 0.5],
    [1, 0.841344746],
    [1.96, 0.975002105],
    [-2.5, 0.006209665],
  ])('the normal distribution at %f is %f', (z, p) => expect(phi(z)).toBeCloseTo(p, 6));
});

describe('curves', () => {
  it('a bent line is followed, two points that lie off do not move it', () => {
    const points = Array.from({ length: 41 }, (_, k) => [k * 3, 40 + 0.004 * (k * 3 - 60) ** 2] as const);
    const spoilt = points.map((p, k) => (k === 9 || k === 30 ? ([p[0], p[1] + 25] as const) : p));
    const curve = curveThrough(spoilt, FACE_SETTINGS)!;
    for (let s = curve.from; s <= curve.to; s += 5) {
      const [x, y] = onCurve(curve, s, 0);
      expect(Math.abs(y - 40 - 0.004 * (x - 60) ** 2)).toBeLessThan(0.6);
    }
  });
  it('beside the curve is at right angles to it', () => {
    const curve = curveThrough(
      Array.from({ length: 10 }, (_, k) => [k, 2 * k] as const),
      FACE_SETTINGS,
    )!;
    const a = onCurve(curve, 1, 0);
    const b = onCurve(curve, 1, 3);
    expect(Math.hypot(b[0] - a[0], b[1] - a[1])).toBeCloseTo(3, 9);
    expect((b[0] - a[0]) * 1 + (b[1] - a[1]) * 2).toBeCloseTo(0, 9);
  });
  it('three points are none', () =>
    expect(
      curveThrough(
        [
          [0, 0],
          [1, 1],
          [2, 2],
        ],
        FACE_SETTINGS,
      ),
    ).toBeNull());
});

describe('the response to lines', () => {
  const SIDE = 81;
  it.each([0, 20, 45, 70, 90, 115, 135, 160])('a line at %i degrees answers in its own direction', (deg) => {
    const t = (deg * Math.PI) / 180;
    const next = numbers(5);
    const level = Float32Array.from({ length: SIDE * SIDE }, (_, i) => {
      const x = (i % SIDE) - 40;
      const y = Math.floor(i / SIDE) - 40;
      const away = Math.abs(y * Math.cos(t) - x * Math.sin(t));
      return (away < 1.2 ? 12 : 0) + 2 * (next() - 0.5);
    });
    const inside = new Uint8Array(SIDE * SIDE).fill(1);
    const { value, way } = lineResponse(level, inside, SIDE, { arm: 8, beside: 6 }, FACE_SETTINGS);
    const middle = 40 * SIDE + 40;
    expect(value[middle]!).toBeGreaterThan(8);
    const off = Math.abs((way[middle]! / DIRECTIONS) * 180 - deg);
    expect(Math.min(off, 180 - off)).toBeLessThanOrEqual(10);
  });
  it('a spot answers weakly, and nothing outside is summed', () => {
    const level = new Float32Array(SIDE * SIDE);
    const inside = new Uint8Array(SIDE * SIDE).fill(1);
    const next = numbers(5);
    for (let i = 0; i < level.length; i++) {
      const x = (i % SIDE) - 40;
      const y = Math.floor(i / SIDE) - 40;
      level[i] = (Math.hypot(x, y) < 2.5 ? 30 : 0) + 2 * (next() - 0.5);
      if (x > 20) [level[i], inside[i]] = [500, 0];
    }
    const { value } = lineResponse(level, inside, SIDE, { arm: 8, beside: 6 }, FACE_SETTINGS);
    const near = Array.from({ length: 17 }, (_, k) => Math.abs(value[40 * SIDE + 52 + k]!));
    expect(Math.max(...near)).toBeLessThan(8);
  });
});

describe('copies and rings', () => {
  it('a copy of half the size has the mean of four, and its places lie in the whole', () => {
    const level = Float32Array.from({ length: 25 }, (_, i) => i);
    const half = halved(level, new Uint8Array(25).fill(1), 5);
    expect([...half.level]).toEqual([3, 5, 13, 15]);
    expect(fullResolutionIndex(3, 2, 5)).toBe(3 * 5 + 3);
  });
  it('a smaller picture has the mean of each block', () => {
    const image = { width: 5, height: 4, data: Uint8Array.from({ length: 20 }, (_, i) => 10 * i) };
    const small = shrink(image, 2);
    expect([small.width, small.height]).toEqual([2, 2]);
    expect([...small.level]).toEqual([30, 50, 130, 150]);
    expect([...inGrey(small).data]).toEqual([30, 50, 130, 150]);
  });
  it('rings hold what lies at their distance, inside alone', () => {
    const distance = Float32Array.of(0.2, 0.6, 1.4, 1.6, 2.2);
    const rings = ringsOf(Float32Array.of(1, 2, 3, 4, 5), distance, Uint8Array.of(1, 1, 1, 1, 0), 1);
    expect(rings.map((r) => [...r])).toEqual([
      [1, 2],
      [3, 4],
    ]);
  });
});
