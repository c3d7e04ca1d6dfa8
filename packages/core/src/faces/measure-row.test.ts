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

/** From 0 to 1, the same for a place each time. */
const noiseAt = (x: number, y: number): number => {
  const hash = Math.sin(12.9898 * x + 78.233 * y) * 43_758.5453;
  return hash - Math.floor(hash);
};
/** The fibers of a ferrule in one row or in two, 500 um apart, turned by an angle as it lies in its holder. */
const ferrule = (columns: number, rows: number, degrees: number): GreyImage => {
  const turn = (degrees * Math.PI) / 180;
  const width = 500 * columns + 60;
  const height = rows === 1 ? 400 : 1400;
  const places = Array.from({ length: columns * rows }, (_, i): [number, number] => {
    const x = 500 * ((i % columns) - (columns - 1) / 2);
    const y = 1000 * (Math.floor(i / columns) - (rows - 1) / 2);
    return [
      width / 2 + x * Math.cos(turn) - y * Math.sin(turn),
      height / 2 + x * Math.sin(turn) + y * Math.cos(turn),
    ];
  });
  return grey(width, height, (x, y) => {
    let d = Infinity;
    for (const [cx, cy] of places) if (Math.abs(x - cx) < 200) d = Math.min(d, Math.hypot(x - cx, y - cy));
    const within = (r: number): number => (d > r + 30 ? 0 : 1 / (1 + Math.exp((d - r) / 0.7)));
    return Math.round(90 + 50 * within(125) + 30 * within(9) + 3 * (noiseAt(x, y) - 0.5));
  });
};

describe('the fibers of a ferrule', () => {
  it.each([
    [8, 1, 0.3],
    [3, 2, 0],
    [4, 2, 0.4],
  ])(
    '%i in each of %i rows, turned by %d degrees, are all found, the upper row first',
    (columns, rows, degrees) => {
      const found = measureRow(ferrule(columns, rows, degrees), PC);
      if (!found.ok) throw new Error(found.reason);
      expect(found.fibers.map((f) => f.fiber)).toEqual(
        Array.from({ length: columns * rows }, (_, i) => i + 1),
      );
      found.fibers.forEach(({ centrePx }, i) => {
        if (i % columns > 0) expect(centrePx[0]).toBeGreaterThan(found.fibers[i - 1]!.centrePx[0]);
        if (i >= columns) expect(centrePx[1] - found.fibers[i - columns]!.centrePx[1]).toBeGreaterThan(990);
      });
      expect(found.verdict).toBe('pass');
    },
  );
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
