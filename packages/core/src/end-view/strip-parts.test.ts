import { describe, expect, it } from 'vitest';
import { type Beside, besideOf, biggestChange } from './beside-cable.ts';
import { blockEdges } from './block-edges.ts';
import type { EndStrip } from './end-strip.ts';
import { fineEdge } from './fine-edge.ts';

const PER_MM = 10;
const COLUMNS = 200;
const ROWS = 201;
const MIDDLE = 100;

/** Seeded noise, about normal. */
function noiseFrom(seed: number): () => number {
  let state = seed;
  return () => {
    let sum = 0;
    for (let i = 0; i < 4; i++) {
      state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
      sum += state / 4294967296 - 0.5;
    }
    return sum * Math.sqrt(3);
  };
}
/** A strip whose three colours are the same, with noise. */
function stripOf(value: (column: number, row: number) => number, sd = 0.01): EndStrip {
  const noise = noiseFrom(7);
  const plane = (): Float32Array =>
    Float32Array.from(
      { length: ROWS * COLUMNS },
      (_, i) => value(i % COLUMNS, Math.floor(i / COLUMNS)) + sd * noise(),
    );
  return {
    perMm: PER_MM,
    columns: COLUMNS,
    rows: ROWS,
    startMm: 0,
    axisMm: 36,
    sign: 1,
    off: [plane(), plane(), plane()],
    differs: new Float32Array(ROWS * COLUMNS),
    glaring: new Float32Array(COLUMNS),
    noise: sd,
  };
}
const straight = new Float32Array(COLUMNS).fill(MIDDLE);

describe('edges in blocks', () => {
  const cellOf = ({ firstRow, rowsACell }: ReturnType<typeof blockEdges>, row: number): number =>
    Math.round((row - firstRow) / rowsACell);
  it('paper alone shows hardly any', () => {
    const { step, line } = blockEdges(stripOf(() => 0));
    expect(step.filter((s) => s > 0.5).length).toBeLessThan(0.001 * step.length);
    expect(line.filter((s) => s > 0.5).length).toBeLessThan(0.001 * line.length);
  });
  it('nor does paper without any noise but a trace', () => {
    const { step } = blockEdges(stripOf((_, r) => (r > MIDDLE ? 0.004 : 0), 0));
    expect(Math.max(...step)).toBeLessThan(0.1);
  });
  it('a step of the light is one, where it is', () => {
    const edges = blockEdges(stripOf((_, r) => (r >= MIDDLE ? -0.3 : 0)));
    const at = cellOf(edges, MIDDLE);
    for (let b = 0; b < edges.blocks; b++) {
      const row = edges.step.subarray(b * edges.cells, (b + 1) * edges.cells);
      expect(row.indexOf(Math.max(...row))).toBe(at);
      expect(row[at]).toBeGreaterThan(0.9);
    }
  });
  it('a thin line is no step of a thick thing but a line, and a step is no line', () => {
    const thin = blockEdges(stripOf((_, r) => (Math.abs(r - MIDDLE) <= 1 ? -0.3 : 0)));
    const thick = blockEdges(stripOf((_, r) => (r >= MIDDLE ? -0.3 : 0)));
    const row = (edges: ReturnType<typeof blockEdges>): Float32Array => edges.line.subarray(0, edges.cells);
    expect(row(thin)[cellOf(thin, MIDDLE)]).toBeGreaterThan(0.9);
    expect(row(thick)[cellOf(thick, MIDDLE)]).toBeLessThan(0.5);
  });
});

describe('what lies beside a cable', () => {
  it('is read as far from its middle as is asked, on both sides', () => {
    const strip = stripOf((_, r) => (r - MIDDLE) / 100, 0);
    const { away, count, size, values } = besideOf(strip, straight, 20, 60, 4, [0.5, 1]);
    expect(count).toBe(10);
    expect(size).toBe(3 * away.length);
    expect(Math.min(...away)).toBeCloseTo(-1, 12);
    // 0.5 mm are 5 rows.
    away.forEach((mm, j) => expect(values[3 * j]).toBeCloseTo(Math.round(mm * PER_MM) / 100, 2));
  });
  const beside = (value: (n: number) => number, noise: (n: number) => number): Beside => {
    const own = noiseFrom(3);
    const values = Float32Array.from({ length: 100 * 6 }, (_, i) => {
      const n = Math.floor(i / 6);
      return value(n) + noise(n) * own();
    });
    return { count: 100, size: 6, values, away: [-1, 1] };
  };
  it('changes most where it steps', () =>
    expect(
      biggestChange(
        beside(
          (n) => (n >= 60 ? 0.3 : 0),
          () => 0.01,
        ),
        10,
      ),
    ).toEqual({ at: 60, rival: null }));
  it('the edge of an even layer is told though loose yarn lies before it', () => {
    const even = biggestChange(
      beside(
        (n) => (n >= 70 ? 0.6 : n >= 30 ? 0.15 : 0),
        (n) => (n >= 30 && n < 70 ? 0.2 : 0.01),
      ),
      10,
    );
    expect(Math.abs(even!.at - 70)).toBeLessThanOrEqual(1);
  });
  it('two steps alike are told as rivals', () => {
    const change = biggestChange(
      beside(
        (n) => (n >= 70 ? 0.4 : n >= 30 ? 0.2 : 0),
        () => 0.01,
      ),
      10,
    )!;
    expect([change.at, change.rival].sort()).toEqual([30, 70]);
  });
  it('too few values tell nothing', () =>
    expect(
      biggestChange(
        {
          ...beside(
            () => 0,
            () => 0,
          ),
          count: 15,
        },
        10,
      ),
    ).toBeNull());
});

describe('an edge to a part of a column', () => {
  // Half of the column at 120 belongs to the layer: it begins at 120 in the middle of columns.
  const at = (begin: (row: number) => number) =>
    fineEdge(
      stripOf((k, r) => -0.4 * Math.max(0, Math.min(1, k - begin(r) + 0.5))),
      straight,
      120,
      [0.5, 1.4],
      1.5,
      0,
    )!;
  it.each([119.6, 120, 120.3])('lies where it was painted: %s', (begin) => {
    const edge = at(() => begin);
    expect(Math.abs(edge.column - begin)).toBeLessThan(0.15);
    expect(edge.sdMm).toBeLessThan(0.06);
  });
  it('that is ragged is less certain', () => {
    const ragged = at((r) => 116 + ((r * 7) % 11) * 0.8);
    expect(ragged.sdMm).toBeGreaterThan(1.5 * at(() => 120).sdMm);
  });
  it('that is not there is none', () =>
    expect(
      fineEdge(
        stripOf(() => 0),
        straight,
        120,
        [0.5, 1.4],
        1.5,
        0,
      ),
    ).toBeNull());
});
