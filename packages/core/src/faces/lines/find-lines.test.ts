import { FACE_SETTINGS } from '../settings.ts';
import { describe, expect, it } from 'vitest';
import { BLUR, faceOf, mark, type Paint, SIDE, soft } from '../cladding/faces-for-tests.ts';
import { findLines } from './find-lines.ts';
import type { FoundLine } from './found-line.ts';
import { joinPieces, placeBy } from './join-pieces.ts';

const linesOn = (paint: Paint, seed?: number): readonly FoundLine[] => {
  const face = faceOf(paint, seed);
  return findLines(face, face.inside, BLUR, 0.8, FACE_SETTINGS);
};

const angleOf = ({ pixels }: FoundLine): number => {
  const a = pixels[0]!;
  const b = pixels[pixels.length - 1]!;
  const deg =
    (Math.atan2(Math.floor(b / SIDE) - Math.floor(a / SIDE), (b % SIDE) - (a % SIDE)) * 180) / Math.PI;
  return (deg + 180) % 180;
};

describe('lines', () => {
  it.each([0, 17, 45, 63, 90, 118, 151])('one mark at %i degrees is one line, along it', (deg) => {
    const found = linesOn(mark(deg, 55, 3, -14));
    expect(found).toHaveLength(1);
    const off = Math.abs(angleOf(found[0]!) - deg);
    expect(Math.min(off, 180 - off)).toBeLessThan(4);
    expect(found[0]!.length).toBeGreaterThan(95);
    expect(found[0]!.length).toBeLessThan(135);
    expect(found[0]!.sign).toBe(-1);
  });
  it.each([3, 4, 6])('a mark %i px wide is measured so within a px', (width) => {
    const [line] = linesOn(mark(30, 60, width, 20));
    expect(Math.abs(line!.width - width)).toBeLessThan(1);
    expect(line!.sign).toBe(1);
  });
  it('grain alone holds none', () => {
    for (let seed = 1; seed <= 6; seed++) expect(linesOn(() => 0, seed)).toEqual([]);
  });
  it('round spots, alone and near each other, are none', () => {
    const spot =
      (px: number, py: number, r: number): Paint =>
      (x, y) =>
        -40 * soft(Math.hypot(x - px, y - py), 2 * r, BLUR);
    const spots = [spot(0, 0, 6), spot(40, 20, 4), spot(-50, 10, 9), spot(10, -60, 5)];
    expect(linesOn((x, y) => spots.reduce((sum, s) => sum + s(x, y), 0))).toEqual([]);
  });
  it('a short mark is none, two that cross are two', () => {
    expect(linesOn(mark(0, 8, 3, -14))).toEqual([]);
    const cross: Paint = (x, y) => mark(10, 70, 3, -14)(x, y) + mark(80, 70, 3, -14)(x, y);
    const angles = linesOn(cross)
      .map(angleOf)
      .sort((a, b) => a - b);
    expect(angles).toHaveLength(2);
    expect(Math.abs(angles[0]! - 10)).toBeLessThan(5);
    expect(Math.abs(angles[1]! - 80)).toBeLessThan(5);
  });
  it('a mark with a gap is one line from end to end; two beside each other stay two', () => {
    const t = Math.PI / 6;
    const at = (s: number): [number, number] => [s * Math.cos(t), s * Math.sin(t)];
    const gap: Paint = (x, y) => mark(30, 22, 3, -16, at(-34))(x, y) + mark(30, 22, 3, -16, at(34))(x, y);
    const one = linesOn(gap);
    expect(one).toHaveLength(1);
    expect(one[0]!.length).toBeGreaterThan(100);
    const pair: Paint = (x, y) => mark(0, 60, 3, -16, [0, -25])(x, y) + mark(0, 60, 3, -16, [0, 25])(x, y);
    expect(linesOn(pair)).toHaveLength(2);
  });
});

describe('pieces', () => {
  const piece = (x1: number, y1: number, x2: number, y2: number, sign = 1): FoundLine => {
    const n = Math.ceil(Math.hypot(x2 - x1, y2 - y1));
    const pixels = Array.from(
      { length: n + 1 },
      (_, k) => Math.round(y1 + ((y2 - y1) * k) / n) * SIDE + Math.round(x1 + ((x2 - x1) * k) / n),
    );
    return { pixels, length: n, width: 3, height: 10, sign };
  };
  it('how a point lies: beside, before and behind', () => {
    const line = piece(50, 100, 150, 100);
    expect(placeBy(line, SIDE, 90, 107)).toEqual({ aside: 7, beyond: 0 });
    expect(placeBy(line, SIDE, 170, 100).beyond).toBeCloseTo(20, 9);
    expect(placeBy(line, SIDE, 20, 100).beyond).toBeCloseTo(30, 9);
  });
  it('join when they go on, in any order; not when turned, aside, far off or of the other sign', () => {
    const first = piece(20, 100, 80, 100);
    const next = piece(110, 102, 150, 102);
    for (const order of [
      [first, next],
      [next, first],
    ]) {
      const joined = joinPieces(order, SIDE, FACE_SETTINGS);
      expect(joined).toHaveLength(1);
      expect(joined[0]!.line.length).toBeCloseTo(Math.hypot(130, 2), 6);
      expect(joined[0]!.line.pixels).toHaveLength(first.pixels.length + next.pixels.length);
    }
    for (const other of [
      piece(110, 80, 110, 120),
      piece(110, 130, 150, 130),
      piece(165, 100, 200, 100),
      piece(110, 102, 150, 102, -1),
    ]) {
      expect(joinPieces([first, other], SIDE, FACE_SETTINGS)).toHaveLength(2);
    }
    expect(joinPieces([], SIDE, FACE_SETTINGS)).toEqual([]);
  });
});
