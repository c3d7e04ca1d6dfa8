import { FACE_SETTINGS } from './settings.ts';
import { describe, expect, it } from 'vitest';
import { BLUR, disc, faceOf, type Paint, SIDE, soft, together } from './cladding/faces-for-tests.ts';
import { findFeatures, type FoundFeature } from './find-features.ts';
import { curveThrough, onCurve } from './lines/follow-curve.ts';
import type { MeasuredLine } from './lines/found-line.ts';
import { mergeLines } from './lines/merge-lines.ts';
import { smooth } from './cladding/smooth.ts';

type Point = readonly [number, number];

/** Points of an arc a pixel apart, `fromDeg` to `toDeg` round a centre. */
function arc(r: number, fromDeg: number, toDeg: number, [cx, cy]: Point = [0, 0]): Point[] {
  const steps = Math.round((Math.abs(toDeg - fromDeg) * Math.PI * r) / 180);
  return Array.from({ length: steps + 1 }, (_, k) => {
    const t = ((fromDeg + (k / steps) * (toDeg - fromDeg)) * Math.PI) / 180;
    return [cx + r * Math.cos(t), cy + r * Math.sin(t)] as const;
  });
}
const lineOf = (points: readonly Point[], more: Partial<MeasuredLine> = {}): MeasuredLine => ({
  points,
  pixels: [],
  length: points.length - 1,
  width: 4,
  height: 12,
  sign: -1,
  blur: BLUR,
  ...more,
});
const painted =
  (points: readonly Point[], width: number, height: number): Paint =>
  (x, y) =>
    height * soft(Math.min(...points.map(([px, py]) => Math.hypot(px - x, py - y))), width, BLUR);
const found = (paint: Paint, seed?: number): readonly FoundFeature[] =>
  findFeatures(faceOf(paint, seed), BLUR, FACE_SETTINGS);

describe('a curve through points', () => {
  it.each([400, 160, 90])('follows an arc of %i px radius over 150 px to half a pixel', (r) => {
    const half = (150 / r / 2) * (180 / Math.PI);
    const points = arc(r, 90 - half, 90 + half, [0, -r]);
    const curve = curveThrough(points, FACE_SETTINGS)!;
    for (const share of [0.05, 0.3, 0.5, 0.8, 0.95]) {
      const [x, y] = onCurve(curve, curve.from + share * (curve.to - curve.from), 0);
      expect(Math.abs(Math.hypot(x, y + r) - r)).toBeLessThan(0.5);
    }
  });
  it('leaves out what lies far off it', () => {
    const points = arc(300, 70, 110, [0, -300]).map((p, i) =>
      i % 9 === 0 ? ([p[0], p[1] + 14] as const) : p,
    );
    const curve = curveThrough(points, FACE_SETTINGS)!;
    const [x, y] = onCurve(curve, (curve.from + curve.to) / 2, 0);
    expect(Math.abs(Math.hypot(x, y + 300) - 300)).toBeLessThan(0.3);
  });
});

describe('lines that go on', () => {
  it('two pieces of one arc are one line, whichever way their points run', () => {
    const a = arc(100, 0, 50);
    const b = arc(100, 58, 110);
    for (const [p, q] of [
      [a, b],
      [a, [...b].reverse()],
      [[...a].reverse(), b],
    ] as const) {
      const merged = mergeLines([lineOf(p), lineOf(q)], FACE_SETTINGS);
      expect(merged).toHaveLength(1);
      expect(merged[0]!.length / ((110 * Math.PI * 100) / 180)).toBeCloseTo(1, 1);
      expect(merged[0]!.width).toBe(4);
    }
  });
  it('of other sign, width, height, direction or place they stay two', () => {
    const a = arc(100, 0, 50);
    const b = arc(100, 58, 110);
    for (const other of [
      lineOf(b, { sign: 1 }),
      lineOf(b, { width: 12 }),
      lineOf(b, { height: 30 }),
      lineOf(b.map(([x, y]) => [x + 25, y + 25])),
      lineOf(arc(100, 58, 90, [-90, 140])),
    ]) {
      expect(mergeLines([lineOf(a), other], FACE_SETTINGS)).toHaveLength(2);
    }
  });
  it('what the taking out of a line left beside its end is none; one that crosses it there is one', () => {
    const long = lineOf(arc(200, 0, 50));
    const beside = lineOf(arc(204, 42, 52), { width: 1.2 });
    expect(mergeLines([long, beside], FACE_SETTINGS)).toEqual([long]);
    const [x, y] = long.points[150]!;
    const across = lineOf(
      Array.from({ length: 40 }, (_, k) => [x + (k - 20) * 0.7, y + (k - 20) * 0.7] as const),
    );
    expect(mergeLines([long, across], FACE_SETTINGS)).toHaveLength(2);
  });
});

describe('what is bent or has corners', () => {
  it('a strongly bent scratch is one scratch', () => {
    // 72 um round at 0.3 um a pixel.
    const features = found(painted(arc(240, 253, 287, [0, 210]), 3, -18));
    expect(features.map((f) => f.kind)).toEqual(['scratch']);
    expect(features[0]!.length).toBeGreaterThan(125);
  });
  it('what bends as only a thread does is a defect', () => {
    const features = found(painted(arc(70, 200, 330, [0, 40]), 3, -18));
    expect(features.map((f) => f.kind)).toEqual(['defect']);
    expect(features[0]!.size).toBeGreaterThan(110);
  });
  it('a triangle gets back what blur took off its corners, a disc gets nothing', () => {
    const r = 11;
    const corners = [90, 210, 330].map(
      (deg) => [r * Math.cos((deg * Math.PI) / 180), r * Math.sin((deg * Math.PI) / 180)] as const,
    );
    const isIn = (x: number, y: number): boolean =>
      corners.every(([ax, ay], i) => {
        const [bx, by] = corners[(i + 1) % 3]!;
        return (bx - ax) * (y - ay) - (by - ay) * (x - ax) > 0;
      });
    const sharp = new Float32Array(SIDE * SIDE);
    for (let i = 0; i < sharp.length; i++) {
      const x = (i % SIDE) - 100;
      const y = Math.floor(i / SIDE) - 130;
      for (const dx of [-0.25, 0.25])
        for (const dy of [-0.25, 0.25]) if (isIn(x + dx, y + dy)) sharp[i]! -= 9;
    }
    const blurred = smooth(sharp, SIDE, 1.6);
    const triangle: Paint = (x, y) => blurred[(y + 100) * SIDE + x + 100]!;
    const [three] = found(triangle);
    expect(Math.abs(three!.size / (2 * r) - 1)).toBeLessThan(0.08);
    const [round] = found(disc(0, 30, r, -36));
    expect(Math.abs(round!.size / (2 * r) - 1)).toBeLessThan(0.08);
  });
  it('a line beside a dark one ends where it ends', () => {
    const bright = painted(
      Array.from({ length: 60 }, (_, k) => [-60 + k, -12] as const),
      4,
      14,
    );
    const dark = painted(
      Array.from({ length: 130 }, (_, k) => [-65 + k, 0] as const),
      7,
      -20,
    );
    const features = found(together(bright, dark));
    expect(features.map((f) => f.kind)).toEqual(['scratch', 'scratch']);
    const [short] = [...features].sort((a, b) => a.length - b.length);
    expect(short!.length).toBeGreaterThan(50);
    expect(short!.length).toBeLessThan(76);
  });
});
