import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fisherExact } from './fisher.ts';
import { holm } from './holm.ts';
import { differsFromRest } from './differs-from-rest.ts';
import { pairedTest } from './t-tests.ts';

describe('Fisher exact', () => {
  // Fisher (1935), The Design of Experiments, the lady tasting tea: 34/70.
  it('the tea', () => {
    expect(fisherExact(3, 1, 1, 3)).toBeCloseTo(34 / 70, 12);
  });

  // By hand: margins 10, 14, 12, 12; C(10,1) C(14,11) / C(24,12) = 3640/2704156 for the observed table, and the
  // less likely ones on both sides (x = 0, 9, 10).
  it('a table by its binomial coefficients', () => {
    const tables = [91, 3640, 10 * 364, 1 * 91];
    expect(fisherExact(1, 9, 11, 3)).toBeCloseTo(tables.reduce((a, b) => a + b) / 2704156, 12);
  });

  it('does not care which way the table is turned', () => {
    expect(fisherExact(7, 2, 3, 11)).toBeCloseTo(fisherExact(3, 11, 7, 2), 12);
    expect(fisherExact(7, 2, 3, 11)).toBeCloseTo(fisherExact(7, 3, 2, 11), 12);
    expect(fisherExact(7, 2, 3, 11)).toBeCloseTo(fisherExact(2, 7, 11, 3), 12);
  });

  it('says 1 for an empty margin and refuses what is no count', () => {
    expect(fisherExact(0, 0, 3, 4)).toBeCloseTo(1, 12);
    expect(fisherExact(5, 0, 9, 0)).toBeCloseTo(1, 12);
    expect(() => fisherExact(-1, 2, 3, 4)).toThrow('stats.bad_count');
    expect(() => fisherExact(1.5, 2, 3, 4)).toThrow('stats.bad_count');
  });

  it('takes large tables', () => {
    expect(fisherExact(20_000, 5_000, 60_000, 15_000)).toBeCloseTo(1, 6);
    expect(fisherExact(20_000, 5_000, 50_000, 15_000)).toBeLessThan(1e-20);
  });
});

describe('Holm', () => {
  it('steps down and keeps the order', () => {
    expect(holm([0.01, 0.04, 0.03]).map((p) => Math.round(p * 1e9) / 1e9)).toEqual([0.03, 0.06, 0.06]);
    expect(holm([])).toEqual([]);
    expect(holm([0.6, 0.7])).toEqual([1, 1]);
    expect(() => holm([1.1])).toThrow('stats.bad_probability');
  });
});

describe('standing apart', () => {
  const cell = (k: number, n: number, group = 'cleave') => ({ group, k, n });
  it('marks the one bad tool, and only there', () => {
    const found = differsFromRest([cell(10, 40), cell(35, 40), cell(36, 40), cell(34, 40)]);
    expect(found.map((f) => f.signal)).toEqual(['worse', null, null, null]);
  });
  it('marks nothing on little data or alone', () => {
    expect(differsFromRest([cell(0, 2), cell(2, 2)]).map((f) => f.signal)).toEqual([null, null]);
    expect(differsFromRest([cell(5, 9)]).map((f) => f.signal)).toEqual([null]);
    expect(differsFromRest([cell(0, 0), cell(3, 9)]).map((f) => f.signal)).toEqual([null, null]);
  });
  it('compares within a group', () => {
    const found = differsFromRest([cell(30, 40, 'a'), cell(30, 40, 'a'), cell(5, 40, 'b'), cell(5, 40, 'b')]);
    expect(found.every((f) => f.signal === null)).toBe(true);
  });
});

describe('a constant shift', () => {
  it('of decimals has no spread, whatever their binary digits make of the differences', () => {
    const cents = fc.array(fc.integer({ min: -5000, max: 5000 }), { minLength: 2, maxLength: 30 });
    fc.assert(
      fc.property(
        cents,
        fc.integer({ min: -300, max: 300 }),
        fc.constantFrom(10, 100, 1000),
        (list, shift, per) => {
          const before = list.map((c) => c / per);
          const after = list.map((c) => (c + shift) / per);
          expect(pairedTest(after, before)).toEqual({ kind: 'none', reason: 'no_spread' });
        },
      ),
    );
  });
  it('and a last digit of difference is one', () => {
    expect(pairedTest([0.31, 0.42, 0.53], [0.21, 0.32, 0.42])).toMatchObject({ kind: 'test', freedom: 2 });
  });
});
