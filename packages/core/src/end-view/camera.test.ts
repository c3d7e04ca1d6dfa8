import { describe, expect, it } from 'vitest';
import {
  type Camera,
  eyeOf,
  fitCamera,
  homographyOf,
  project,
  type Sighting,
  taken,
  turnBy,
} from './camera.ts';
import { cameraCard, LONGEST_MM, MARK_SECTORS } from './camera-card.ts';
import { mmAlong, placeAlong } from './measure-end.ts';

const STRAIGHT: Camera = {
  focal: 1000,
  k1: 0,
  k2: 0,
  centre: { x: 500, y: 400 },
  turn: [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ],
  shift: [0, 0, 200],
};
const strip = { jacketMm: 35, bufferMm: 20, cleaveMm: 20 };
const card = cameraCard('clear-mark/example', 3, strip);

describe('a pinhole camera', () => {
  it('sees what similar triangles say', () => {
    // 10 mm beside the axis, 200 mm away, by a focal length of 1000: 50 pixels.
    expect(project(STRAIGHT, [10, -4, 0])).toEqual({ x: 550, y: 380 });
    // 50 mm nearer: 10 of 150 mm.
    expect(project(STRAIGHT, [10, 0, -50]).x).toBeCloseTo(500 + 1000 / 15, 9);
  });
  it('has distortion as its two terms say', () => {
    const lens = { ...STRAIGHT, k1: 0.1, k2: -0.2 };
    const u = 40 / 200;
    expect(project(lens, [40, 0, 0]).x).toBeCloseTo(500 + 1000 * u * (1 + 0.1 * u ** 2 - 0.2 * u ** 4), 9);
  });
  it('stands where its turn and its shift say', () => {
    expect(eyeOf(STRAIGHT)).toEqual([-0, -0, -200]);
    const turn = turnBy([0.2, -0.4, 0.1]);
    const camera = { ...STRAIGHT, turn, shift: [3, -7, 250] as const };
    const eye = eyeOf(camera);
    // What is at the eye has no depth: all of its place in the camera is nothing.
    const seen = turn.map((row, i) => row.reduce((sum, v, j) => sum + v * eye[j]!, 0) + camera.shift[i]!);
    for (const v of seen) expect(v).toBeCloseTo(0, 9);
  });
  it('a turn keeps lengths and angles, and a quarter turn goes from one axis to the next', () => {
    const turn = turnBy([0.3, 0.9, -1.7]);
    for (let i = 0; i < 3; i++)
      for (let j = 0; j < 3; j++)
        expect(turn[i]!.reduce((sum, v, k) => sum + v * turn[j]![k]!, 0)).toBeCloseTo(i === j ? 1 : 0, 12);
    expect(turnBy([0, 0, Math.PI / 2])[1]![0]).toBeCloseTo(1, 12);
  });
});

describe('a homography', () => {
  it('of the unit square onto a known quadrangle is the one that geometry gives', () => {
    const square = [
      [0, 0],
      [1, 0],
      [1, 1],
      [0, 1],
    ].map(([xMm, yMm]) => ({ xMm: xMm!, yMm: yMm! }));
    // (x, y) -> ((2x + 1) / (1 + x), 3y / (1 + x)): worked by hand.
    const to = square.map(({ xMm: x, yMm: y }) => ({ x: (2 * x + 1) / (1 + x), y: (3 * y) / (1 + x) }));
    const h = homographyOf(square, to)!;
    const wanted = [
      [2, 0, 1],
      [0, 3, 0],
      [1, 0, 1],
    ];
    const unit = h[2]![2]!;
    wanted.forEach((row, i) => row.forEach((v, j) => expect(h[i]![j]! / unit).toBeCloseTo(v, 9)));
    expect(taken(h, { xMm: 0.5, yMm: 0.5 }).x).toBeCloseTo(2 / 1.5, 9);
  });
  it('needs four places', () => expect(homographyOf(card.marks.slice(0, 3), [])).toBeNull());
});

describe('a camera fitted to a card', () => {
  const camera: Camera = {
    ...STRAIGHT,
    focal: 1400,
    k1: -0.06,
    k2: 0,
    centre: { x: 815.5, y: 611.5 },
    turn: turnBy([0.5, -0.25, 0.3]),
    shift: [-60, -30, 190],
  };
  const seenBy = (noise: (i: number) => number, by = camera): Sighting[] =>
    [...card.marks, ...card.dots].map((m, i) => {
      const p = project(by, [m.xMm, m.yMm, 0]);
      return { xMm: m.xMm, yMm: m.yMm, seen: { x: p.x + noise(i), y: p.y - noise(i + 7) }, sdPx: 0.1 };
    });
  it('is the camera that saw it', () => {
    const fit = fitCamera(
      seenBy(() => 0),
      1632,
      1224,
    )!;
    expect(fit.rmsPx).toBeLessThan(0.02);
    expect(fit.camera.focal / camera.focal).toBeCloseTo(1, 2);
    expect(fit.camera.k1).toBeCloseTo(camera.k1, 1);
    const eye = eyeOf(fit.camera);
    eyeOf(camera).forEach((v, i) => expect(Math.abs(eye[i]! - v)).toBeLessThan(2));
  });
  it('whose lens does not stand over the middle of the picture lies off nothing either', () => {
    const aside = { ...camera, centre: { x: 815.5 + 16, y: 611.5 - 12 } };
    const fit = fitCamera(
      seenBy(() => 0, aside),
      1632,
      1224,
    )!;
    expect(fit.rmsPx).toBeLessThan(0.05);
    expect(fit.camera.centre.x - 815.5).toBeGreaterThan(8);
    expect(fit.camera.centre.y - 611.5).toBeLessThan(-6);
  });
  it('says how far places lie off', () => {
    const fit = fitCamera(
      seenBy((i) => (i === 3 ? 30 : 0)),
      1632,
      1224,
    )!;
    expect(fit.off[3]).toBeGreaterThan(20);
    expect(Math.max(...fit.off.filter((_, i) => i !== 3))).toBeLessThan(1.5);
  });
});

describe('the card for the camera', () => {
  it('has marks that no turn and no mirror takes for one another', () => {
    const turns = (word: string): string[] => [...word].map((_, k) => word.slice(k) + word.slice(0, k));
    const mirror = (word: string): string => [...word].reverse().join('');
    const apart = (a: string, b: string): number =>
      Math.min(...turns(b).map((t) => [...t].filter((bit, i) => bit !== a[i]).length));
    MARK_SECTORS.forEach((a, i) => {
      expect(apart(a, mirror(a)), a).toBeGreaterThanOrEqual(2);
      MARK_SECTORS.slice(i + 1).forEach((b) => {
        expect(apart(a, b), `${a} ${b}`).toBeGreaterThanOrEqual(3);
        expect(apart(a, mirror(b)), `${a} ${b}`).toBeGreaterThanOrEqual(3);
      });
    });
  });
  it('says its version: another has other squares', () => {
    const cells = (version: number): string =>
      cameraCard('clear-mark/example', version, strip)
        .cells.map((c) => (c.isDark ? 1 : 0))
        .join('');
    expect(cells(3)).toBe(cells(3));
    const other = [...cells(4)].filter((bit, i) => bit !== cells(3)[i]).length;
    expect(other).toBeGreaterThan(0.15 * cells(3).length);
  });
  it('refuses lengths that do not fit it', () => {
    expect(() => cameraCard('a/b', 1, { ...strip, jacketMm: LONGEST_MM + 1 })).toThrow(/card.too_long/);
  });
});

describe('a path along a cable', () => {
  const path = [
    { x: 0, y: 0, mm: 0 },
    { x: 30, y: 40, mm: 5 },
    { x: 60, y: 40, mm: 8 },
  ];
  it('tells how far a place lies along it, and where so many mm are', () => {
    expect(mmAlong(path, { x: 15, y: 20 })).toBeCloseTo(2.5, 12);
    // Beside it counts as its foot on it.
    expect(mmAlong(path, { x: 45, y: 55 })).toBeCloseTo(6.5, 12);
    expect(placeAlong(path, 6.5)).toEqual({ x: 45, y: 40 });
    expect(placeAlong(path, 99)).toEqual(path[2]);
    expect(placeAlong(path, 0)).toEqual(path[0]);
  });
});
