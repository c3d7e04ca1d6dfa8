import { describe, expect, it } from 'vitest';
import { type GreyImage, faceCriteria, measureRow, rowTable, verdictOfRow } from './index.ts';

const PC = faceCriteria('sm-pc')!;
const grey = (width: number, height: number, level: (x: number, y: number) => number): GreyImage => ({
  width,
  height,
  data: Uint8Array.from({ length: width * height }, (_, i) => level(i % width, Math.floor(i / width))),
});
/** Fibers side by side, 250 um apart at half a micrometre a pixel, on a darker ferrule. */
const rowOf = (fibers: number, tilt = 0): GreyImage =>
  grey(500 * fibers, 340, (x, y) => {
    const fiber = Math.floor(x / 500);
    const d = Math.hypot(x - 250 - 500 * fiber, y - 170 - tilt * fiber);
    // Edges are as soft as a lens makes them.
    const within = (r: number): number => 1 / (1 + Math.exp((d - r) / 0.7));
    return Math.round(90 + 50 * within(125) + 30 * within(9));
  });

describe('a row of fibers', () => {
  it('is counted from the left, also where it rises', () => {
    for (const tilt of [0, 4]) {
      const row = measureRow(rowOf(4, tilt), PC);
      if (!row.ok) throw new Error(row.reason);
      expect(row.fibers.map((f) => f.fiber)).toEqual([1, 2, 3, 4]);
      row.fibers.forEach((f, i) => {
        expect(Math.abs(f.centrePx[0] - 250 - 500 * i)).toBeLessThan(0.5);
        expect(Math.abs(f.centrePx[1] - 170 - tilt * i)).toBeLessThan(0.5);
        expect(f.face.ok && f.face.centrePx[0]).toBeCloseTo(f.centrePx[0], 0);
      });
      expect(row.verdict).toBe('pass');
    }
  });
  it('tells of each fiber as it begins', () => {
    const told: number[] = [];
    measureRow(rowOf(3), PC, (done) => told.push(done));
    expect(told).toEqual([0, 1, 2]);
  });
  it('without a fiber is none', () => {
    expect(
      measureRow(
        grey(900, 300, (x) => x % 200),
        PC,
      ),
    ).toEqual({ ok: false, reason: 'no_face' });
    expect(() => measureRow({ width: 3, height: 3, data: new Uint8Array(2) }, PC)).toThrow('face.bad_image');
  });
  it('is graded on core and cladding alone', () => {
    expect(rowTable(PC).zones.map((z) => z.zone)).toEqual(['A', 'B']);
    expect(rowTable(PC).id).toBe(PC.id);
  });
  it.each([
    [['pass', 'pass'], 'pass'],
    [['pass', 'fail', null], 'fail'],
    [['pass', null], null],
  ] as const)('%j is %s', (fibers, verdict) => expect(verdictOfRow(fibers)).toBe(verdict));
});
