import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { offBy, valueOf, worstOf } from '../fixtures-for-tests.ts';
import {
  cohenKappa,
  fleissKappa,
  gwetAc1,
  gwetAc1OfMany,
  type Kappa,
  pabak,
  weightedKappa,
} from './index.ts';

const of = (k: Kappa): Extract<Kappa, { kind: 'kappa' }> => {
  if (k.kind === 'none') throw new Error();
  return k;
};

describe('more than two raters', () => {
  // The worked table of 10 subjects, 14 raters and 5 categories that is printed with Fleiss' formula: kappa 0.210 (from
  // memory; observed agreement 0.378, by chance 0.213).
  const FOURTEEN = [
    [0, 0, 0, 0, 14],
    [0, 2, 6, 4, 2],
    [0, 0, 3, 5, 6],
    [0, 3, 9, 2, 0],
    [2, 2, 8, 1, 1],
    [7, 7, 0, 0, 0],
    [3, 2, 6, 3, 0],
    [2, 5, 3, 2, 2],
    [6, 5, 2, 1, 0],
    [0, 2, 2, 3, 7],
  ];
  it('the table with fourteen raters', () => {
    const found = fleissKappa(FOURTEEN);
    expect(found).toMatchObject({ kind: 'kappa', subjects: 10, raters: 14 });
    expect(found.kind === 'kappa' && found.kappa).toBeCloseTo(0.21, 3);
    expect(found.kind === 'kappa' && found.errorAtZero).toBeGreaterThan(0);
  });
  it('no subject, one answer, uneven raters', () => {
    expect(fleissKappa([])).toEqual({ kind: 'none', reason: 'empty' });
    expect(
      fleissKappa([
        [3, 0],
        [3, 0],
      ]),
    ).toEqual({ kind: 'none', reason: 'one_answer' });
    expect(() =>
      fleissKappa([
        [3, 0],
        [2, 0],
      ]),
    ).toThrow('agreement.bad_table');
  });
});

describe('two raters', () => {
  // Cohen (1968) weights; by hand for three grades: 1 - sum w f / sum w e with distances.
  it('weighted kappa by its distances', () => {
    const table = [
      [11, 2, 1],
      [1, 10, 3],
      [0, 2, 10],
    ];
    const n = 40;
    const rows = [14, 14, 12];
    const columns = [12, 14, 14];
    for (const [weights, power] of [
      ['linear', 1],
      ['quadratic', 2],
    ] as const) {
      let seen = 0;
      let chance = 0;
      for (let i = 0; i < 3; i++) {
        for (let j = 0; j < 3; j++) {
          seen += Math.abs(i - j) ** power * table[i]![j]!;
          chance += (Math.abs(i - j) ** power * rows[i]! * columns[j]!) / n;
        }
      }
      expect(of(weightedKappa(table, weights)).kappa).toBeCloseTo(1 - seen / chance, 12);
    }
  });
  it('with two grades all weights are the plain kappa, error and all', () => {
    const table = [
      [20, 5],
      [3, 12],
    ];
    const plain = of(cohenKappa(table));
    for (const weights of ['linear', 'quadratic'] as const) {
      const found = of(weightedKappa(table, weights));
      expect(found.kappa).toBeCloseTo(plain.kappa, 12);
      expect(found.error).toBeCloseTo(plain.error, 12);
    }
  });
  // Gwet (2008), British Journal of Mathematical and Statistical Psychology 61:29-48: where nearly all are of one kind kappa
  // is under 0 although 118 of 125 agree; AC1 0.94 (from memory).
  it('a skewed table: kappa hides what AC1 and PABAK show', () => {
    const table = [
      [118, 5],
      [2, 0],
    ];
    expect(of(cohenKappa(table)).kappa).toBeCloseTo(-0.0234, 3);
    expect(of(gwetAc1(table)).kappa).toBeCloseTo(0.9408, 3);
    expect(of(pabak(table)).kappa).toBeCloseTo((2 * 118) / 125 - 1, 12);
  });
  it('AC1’s error is about what repeated tables show', () => {
    // 200 tables of 80 pairs, by the minimal standard generator.
    let state = 11;
    const next = (): number => (state = (state * 48271) % 2147483647) / 2147483647;
    const cells = [0.7, 0.1, 0.05, 0.15];
    const found = Array.from({ length: 400 }, () => {
      const counts = [0, 0, 0, 0];
      for (let i = 0; i < 80; i++) {
        let u = next();
        let c = 0;
        while (c < 3 && u > cells[c]!) u -= cells[c++]!;
        counts[c]! += 1;
      }
      return of(gwetAc1([counts.slice(0, 2), counts.slice(2)]));
    });
    const mean = found.reduce((sum, f) => sum + f.kappa, 0) / found.length;
    const sd = Math.sqrt(found.reduce((sum, f) => sum + (f.kappa - mean) ** 2, 0) / (found.length - 1));
    const stated = found.reduce((sum, f) => sum + f.error, 0) / found.length;
    expect(Math.abs(stated / sd - 1)).toBeLessThan(0.12);
  });
  it('nothing counted is no answer; intervals are not clipped', () => {
    const nothing = [
      [0, 0],
      [0, 0],
    ];
    for (const f of [gwetAc1, pabak, cohenKappa, (t: number[][]) => weightedKappa(t, 'linear')]) {
      expect(f(nothing)).toEqual({ kind: 'none', n: 0 });
      expect(() => f([[1, 2]])).toThrow('agreement.bad_table');
    }
    const few = of(
      cohenKappa([
        [5, 0],
        [1, 1],
      ]),
    );
    expect(few.high).toBeGreaterThan(1);
  });
  it('is the same whoever comes first', () => {
    const cell = fc.integer({ min: 0, max: 20 });
    fc.assert(
      fc.property(
        fc.array(fc.array(cell, { minLength: 3, maxLength: 3 }), { minLength: 3, maxLength: 3 }),
        (table) => {
          const turned = table.map((_, i) => table.map((row) => row[i]!));
          for (const f of [cohenKappa, gwetAc1, pabak, (t: number[][]) => weightedKappa(t, 'quadratic')]) {
            const a = f(table);
            const b = f(turned);
            expect(a.kind).toBe(b.kind);
            if (a.kind === 'kappa' && b.kind === 'kappa') {
              expect(a.kappa).toBeCloseTo(b.kappa, 10);
              expect(a.error).toBeCloseTo(b.error, 8);
            }
          }
        },
      ),
      { numRuns: 60, seed: 6 },
    );
  });
});

describe('against R (vcd)', () => {
  // Rows as R's matrix is filled: column by column.
  const TABLES = [
    [11, 1, 0, 2, 10, 2, 1, 3, 10],
    [30, 4, 1, 9, 22, 6, 0, 8, 40],
  ].map((v) => [0, 1, 2].map((i) => [v[i]!, v[i + 3]!, v[i + 6]!]));
  it.each<[string, (table: number[][]) => number]>([
    ['kappa', (t) => of(cohenKappa(t)).kappa],
    ['kappa_error', (t) => of(cohenKappa(t)).error],
    ['kappa_linear', (t) => of(weightedKappa(t, 'linear')).kappa],
    ['kappa_linear_error', (t) => of(weightedKappa(t, 'linear')).error],
    ['kappa_quadratic', (t) => of(weightedKappa(t, 'quadratic')).kappa],
    ['kappa_quadratic_error', (t) => of(weightedKappa(t, 'quadratic')).error],
  ])('%s to 1e-9', (name, f) => expect(worstOf(name, (i) => f(TABLES[i!]!))).toBeLessThan(1e-9));
});

// R 4.2, fixtures/make-more.R.
describe('errors and categories', () => {
  const TABLES = [
    [
      [11, 1, 0],
      [2, 10, 2],
      [1, 3, 10],
    ],
    [
      [30, 4, 1],
      [9, 22, 6],
      [0, 8, 40],
    ],
  ];
  const SUBJECTS = [
    [5, 0, 0],
    [4, 1, 0],
    [2, 2, 1],
    [0, 5, 0],
    [1, 0, 4],
    [3, 1, 1],
  ];
  it('kappa against 0', () => {
    TABLES.forEach((table, i) => {
      expect(offBy(of(cohenKappa(table)).errorAtZero!, valueOf('kappa_error_at_zero', i))).toBeLessThan(
        1e-12,
      );
    });
    // Of two categories every weight is the same, and so is the error.
    const pair = [
      [44, 5],
      [20, 31],
    ];
    expect(of(weightedKappa(pair, 'linear')).errorAtZero).toBeCloseTo(of(cohenKappa(pair)).errorAtZero!, 12);
  });
  it('each category of Fleiss, and its error', () => {
    const found = fleissKappa(SUBJECTS);
    if (found.kind !== 'kappa') throw new Error();
    found.categories.forEach((kappa, j) =>
      expect(offBy(kappa!, valueOf('fleiss_category', j))).toBeLessThan(1e-12),
    );
    expect(found.categoryErrorAtZero).toBeCloseTo(Math.sqrt(2 / (6 * 5 * 4)), 14);
    // The whole is the mean of the categories, weighted by how evenly each is used (Fleiss 1971).
    const used = [15, 9, 6].map((n) => (n / 30) * (1 - n / 30));
    const weighted = found.categories.reduce((sum: number, k, j) => sum + k! * used[j]!, 0);
    expect(weighted / used.reduce((a, b) => a + b, 0)).toBeCloseTo(found.kappa, 12);
    expect(
      fleissKappa([
        [3, 0, 1],
        [2, 0, 2],
      ]),
    ).toMatchObject({ categories: [expect.any(Number), null, expect.any(Number)] });
  });
  it('AC1 of several raters, that of two among them', () => {
    const found = of(gwetAc1OfMany(SUBJECTS));
    expect(offBy(found.kappa, valueOf('ac1_many'))).toBeLessThan(1e-12);
    expect(offBy(found.error, valueOf('ac1_many_error'))).toBeLessThan(1e-12);
    const table = [
      [18, 5],
      [2, 9],
    ];
    const subjects = table.flatMap((row, i) =>
      row.flatMap((n, j) =>
        Array.from({ length: n }, () => [
          Number(i === 0) + Number(j === 0),
          Number(i === 1) + Number(j === 1),
        ]),
      ),
    );
    expect(of(gwetAc1OfMany(subjects)).kappa).toBeCloseTo(of(gwetAc1(table)).kappa, 12);
    expect(gwetAc1OfMany([])).toEqual({ kind: 'none', n: 0 });
    for (const bad of [
      [[1, 0]],
      [
        [2, 0],
        [1, 0, 1],
      ],
      [[2.5, 0]],
      [[2], [2]],
    ]) {
      expect(() => gwetAc1OfMany(bad)).toThrow('agreement.bad_table');
    }
    // Not every rater has to have looked at every subject.
    expect(
      gwetAc1OfMany([
        [2, 0],
        [3, 1],
        [0, 4],
      ]),
    ).toMatchObject({ kind: 'kappa', n: 3 });
  });
});
