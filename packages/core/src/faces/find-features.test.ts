import { FACE_SETTINGS } from './settings.ts';
import { describe, expect, it } from 'vitest';
import {
  BLUR,
  bump,
  disc,
  faceOf,
  mark,
  type Paint,
  SIDE,
  together,
  zigzag,
} from './cladding/faces-for-tests.ts';
import { findFeatures, type FoundFeature } from './find-features.ts';
import { circleOf, edgeOf, elongation } from './spots/spot-shape.ts';
import { findSpots, joinThin, spotGround } from './spots/find-spots.ts';
import type { Spot } from './spots/spot.ts';
import { measureLine } from './lines/measure-line.ts';
import { peelLines } from './lines/peel-lines.ts';
import { spreadOf, smooth } from './cladding/smooth.ts';

const found = (paint: Paint, seed?: number): readonly FoundFeature[] =>
  findFeatures(faceOf(paint, seed), BLUR, FACE_SETTINGS);
const kinds = (features: readonly FoundFeature[]): string[] => features.map((f) => f.kind).sort();
const spotOf = (places: readonly (readonly [number, number])[], more: Partial<Spot> = {}): Spot => ({
  pixels: places.map(([x, y]) => y * SIDE + x),
  sign: -1,
  peak: 20,
  ...more,
});
const block = (x: number, y: number, w: number, h: number): [number, number][] =>
  Array.from({ length: w * h }, (_, k) => [x + (k % w), y + Math.floor(k / w)]);

describe('what stands out of a face', () => {
  it('nothing on a clean one, whatever its grain', () => {
    for (let seed = 1; seed <= 8; seed++) expect(found(() => 0, seed)).toEqual([]);
  });
  it.each([3, 5, 9, 16])('a disc of %i px radius is one defect of its size, where it lies', (r) => {
    const [spot, ...more] = found(disc(20, -15, r, -40));
    expect(more).toEqual([]);
    expect(spot!.kind).toBe('defect');
    expect(Math.hypot(spot!.x - 120, spot!.y - 85)).toBeLessThan(0.7);
    // Grown to a little less than half its height, and a whole pixel at either end.
    expect(Math.abs(spot!.size - 2 * r)).toBeLessThan(1.6);
    expect(spot!.nearest).toBeGreaterThan(25 - r - 2);
    expect(spot!.farthest).toBeLessThan(25 + r + 2);
  });
  it('what is sharper than the lens is noise, unless it stands out plainly', () => {
    expect(found(bump(0.7, -14))).toEqual([]);
    expect(kinds(found(bump(0.7, -25)))).toEqual(['defect']);
    // As wide as the blur leaves a point it may be as faint.
    expect(kinds(found(bump(1.3, -14)))).toEqual(['defect']);
  });
  it('a bright one as well as a dark one', () => {
    expect(kinds(found(together(disc(-40, 0, 5, 40), disc(40, 0, 5, -40))))).toEqual(['defect', 'defect']);
  });
  it('a crack is one defect as long as it reaches, and no scratch', () => {
    const features = found(zigzag(9, 9, 38, 3, -35));
    expect(kinds(features)).toEqual(['defect']);
    expect(features[0]!.size).toBeGreaterThan(50);
    expect(features[0]!.size).toBeLessThan(75);
  });
  it('a pit on a scratch is found beside it, and neither takes the other’s size', () => {
    const features = found(together(mark(20, 70, 3, -14), disc(0, 0, 6, -45)));
    expect(kinds(features)).toEqual(['defect', 'scratch']);
    const scratch = features.find((f) => f.kind === 'scratch')!;
    const pit = features.find((f) => f.kind === 'defect')!;
    expect(Math.abs(scratch.size - 3)).toBeLessThan(0.8);
    expect(scratch.length).toBeGreaterThan(125);
    expect(Math.abs(pit.size - 12)).toBeLessThan(2.5);
  });
  it('a wide scratch leaves no defects at its ends', () => {
    expect(kinds(found(mark(-30, 45, 11, 25)))).toEqual(['scratch']);
  });
  it('two that cross are two scratches, with nothing at the crossing', () => {
    expect(kinds(found(together(mark(15, 70, 3, -16), mark(100, 70, 3, 18))))).toEqual([
      'scratch',
      'scratch',
    ]);
  });
  it('a scratch counts in all that it touches: nearest and farthest from the centre', () => {
    const [scratch] = found(mark(0, 60, 3, -16, [0, 30]));
    expect(Math.abs(scratch!.nearest - 28.5)).toBeLessThan(1.5);
    expect(Math.abs(scratch!.farthest - Math.hypot(60, 30) - 1.5)).toBeLessThan(4);
  });
});

describe('a line measured', () => {
  const measure = (paint: Paint, deg = 0) => {
    const face = faceOf(paint);
    const t = (deg * Math.PI) / 180;
    const pixels = Array.from({ length: 60 }, (_, k) => {
      const s = k - 30;
      return Math.round(100 + s * Math.sin(t)) * SIDE + Math.round(100 + s * Math.cos(t));
    });
    const spread = spreadOf(smooth(face.level, SIDE, 0.7), face.inside);
    return measureLine(
      face,
      { pixels, length: 60, width: 3, height: 10, sign: -1 },
      BLUR,
      spread,
      26,
      FACE_SETTINGS,
    );
  };
  it.each([3, 6, 10])('%i px wide is so within a fifth, from a first guess that is shorter', (width) => {
    const line = measure(mark(0, 70, width, -25));
    expect(Math.abs(line!.width / width - 1)).toBeLessThan(0.2);
    expect(Math.abs(line!.height / 25 - 1)).toBeLessThan(0.25);
    expect(Math.abs(line!.length - 140)).toBeLessThan(14);
  });
  it('a guess that lies a little off and askew is brought onto it', () => {
    const line = measure(mark(4, 70, 4, -25, [0, 3]));
    const first = line!.points[0]!;
    const last = line!.points.at(-1)!;
    const deg = (Math.atan2(last[1] - first[1], last[0] - first[0]) * 180) / Math.PI;
    expect(Math.abs(deg - 4)).toBeLessThan(1);
  });
  it('nothing, an edge and a zigzag are none', () => {
    expect(measure(() => 0)).toBeNull();
    expect(measure((_, y) => (y > 0 ? -25 : 0))).toBeNull();
    expect(measure(zigzag(9, 9, 38, 3, -35))).toBeNull();
  });
  it('taken out it leaves the ground, and says what doubt is left', () => {
    const face = faceOf(mark(0, 70, 4, -25));
    const line = measure(mark(0, 70, 4, -25))!;
    const peeled = peelLines(face, [line], FACE_SETTINGS);
    const on = Array.from({ length: 100 }, (_, k) => 100 * SIDE + 50 + k);
    const mean = (level: Float32Array): number => on.reduce((sum, i) => sum + level[i]!, 0) / on.length;
    expect(mean(face.level)).toBeLessThan(-15);
    expect(Math.abs(mean(peeled.level))).toBeLessThan(2.5);
    expect(peeled.doubt[on[50]!]!).toBeGreaterThan(10);
    expect(peeled.doubt[60 * SIDE + 100]).toBe(0);
    expect(face.level[on[50]!]).not.toBe(peeled.level[on[50]!]);
  });
});

describe('spots', () => {
  it('each pixel is in one at most, the highest first', () => {
    const spots = findSpots(
      spotGround(faceOf(together(disc(-20, 0, 6, -40), disc(10, 0, 4, -60))), FACE_SETTINGS),
      [4, 2, 1],
      FACE_SETTINGS,
    );
    expect(spots).toHaveLength(2);
    const all = spots.flatMap((s) => s.pixels);
    expect(new Set(all).size).toBe(all.length);
  });
  it('the circle round a block runs along its corners', () => {
    const spot = spotOf(block(50, 60, 6, 3));
    const circle = circleOf(spot, SIDE);
    expect(circle.size).toBeCloseTo(Math.hypot(5, 2) + 1, 9);
    expect([circle.x, circle.y]).toEqual([52.5, 61]);
    expect(edgeOf(spotOf(block(50, 60, 4, 4)), SIDE)).toHaveLength(12);
    expect(circleOf(spotOf([[7, 8]]), SIDE)).toEqual({ x: 7, y: 8, size: 1 });
  });
  it('length and width of a bar are those of the bar', () => {
    const shape = elongation(spotOf(block(20, 20, 40, 5)).pixels, SIDE);
    expect(shape.length).toBeCloseTo(40, 0);
    expect(shape.width).toBeCloseTo(5, 0);
  });
  it('thin pieces that nearly touch are one; compact ones, far ones and those of the other sign are not', () => {
    const piece = (x: number, more?: Partial<Spot>): Spot => spotOf(block(x, 50, 20, 2), more);
    expect(joinThin([piece(20), piece(43)], SIDE, FACE_SETTINGS)).toHaveLength(1);
    expect(joinThin([piece(20), piece(43), piece(66)], SIDE, FACE_SETTINGS)[0]!.pixels).toHaveLength(120);
    expect(joinThin([piece(20), piece(60)], SIDE, FACE_SETTINGS)).toHaveLength(2);
    expect(joinThin([piece(20), piece(43, { sign: 1 })], SIDE, FACE_SETTINGS)).toHaveLength(2);
    expect(joinThin([piece(20), piece(43, { peak: 90 })], SIDE, FACE_SETTINGS)).toHaveLength(2);
    expect(
      joinThin([spotOf(block(20, 50, 12, 12)), spotOf(block(34, 50, 12, 12))], SIDE, FACE_SETTINGS),
    ).toHaveLength(2);
    expect(joinThin([], SIDE, FACE_SETTINGS)).toEqual([]);
  });
});
