import { describe, expect, it } from 'vitest';
import { agreementOf, cohenKappa, type JudgedCall, judgeCalls } from './index.ts';

const call = (
  reference: 'pass' | 'fail',
  said: 'pass' | 'fail' | null,
  kinds: string[] = [],
): JudgedCall => ({
  reference,
  said,
  kinds,
  ms: 1000,
});
const times = <T>(n: number, x: T): T[] => Array.from({ length: n }, () => x);

describe('kappa', () => {
  // Cohen J (1960), Educational and Psychological Measurement 20:37-46, the worked table of 200 as proportions.
  it('of the table of Cohen 1960 is 0.492', () => {
    const k = cohenKappa([
      [88, 14, 18],
      [10, 40, 10],
      [2, 6, 12],
    ]);
    expect(k.kind === 'kappa' && k.kappa).toBeCloseTo(0.492, 3);
  });
  // Fleiss, Cohen and Everitt (1969), Psychological Bulletin 72:323-327: kappa 0.429, standard error 0.054 for n = 200.
  it('and the error of Fleiss, Cohen and Everitt 1969 is 0.054', () => {
    const k = cohenKappa([
      [106, 10, 4],
      [22, 28, 10],
      [2, 12, 6],
    ]);
    if (k.kind !== 'kappa') throw new Error('no kappa');
    expect(k.kappa).toBeCloseTo(0.429, 3);
    expect(k.error).toBeCloseTo(0.054, 3);
  });
  it('is the same whoever comes first, 1 where all agree, none where only one answer is ever given', () => {
    const a = cohenKappa([
      [9, 4],
      [1, 6],
    ]);
    const b = cohenKappa([
      [9, 1],
      [4, 6],
    ]);
    expect(a).toEqual(b);
    expect(
      cohenKappa([
        [5, 0],
        [0, 5],
      ]),
    ).toMatchObject({ kappa: 1, error: 0, low: 1, high: 1 });
    expect(
      cohenKappa([
        [10, 0],
        [0, 0],
      ]),
    ).toEqual({ kind: 'none', n: 10 });
    expect(
      cohenKappa([
        [0, 0],
        [0, 0],
      ]),
    ).toEqual({ kind: 'none', n: 0 });
  });
  it.each([
    [[[1, 2]]],
    [
      [
        [1, -1],
        [0, 1],
      ],
    ],
    [
      [
        [1.5, 0],
        [0, 1],
      ],
    ],
    [[]],
  ])('refuses %j', (table) => {
    expect(() => cohenKappa(table)).toThrow('agreement.bad_table');
  });
});

describe('a series of calls', () => {
  it('gives rates of bad and good, and what the policy makes of them', () => {
    const result = judgeCalls(
      [
        ...times(9, call('fail', 'fail', ['pit'])),
        call('fail', 'pass', ['pit', 'scratch']),
        ...times(8, call('pass', 'pass')),
        ...times(2, call('pass', 'fail')),
        call('pass', null),
      ],
      3,
    );
    expect(result).toMatchObject({ n: 20, unanswered: 1, misses: 1, falseAlarms: 2, medianMs: 1000 });
    expect(result.sensitivity).toMatchObject({ k: 9, n: 10 });
    expect(result.specificity).toMatchObject({ k: 8, n: 10 });
    expect(result.kappa).toMatchObject({ kind: 'kappa' });
    expect(result.kappa.kind === 'kappa' && result.kappa.kappa).toBeCloseTo(0.7, 12);
    expect(result.weighted).toBeCloseTo(1 - 5 / 40, 12);
    expect(result.byKind).toEqual([
      { kind: 'pit', faces: 10, missed: 1 },
      { kind: 'scratch', faces: 1, missed: 1 },
    ]);
  });
  it('a miss costs more the more it weighs; nothing answered gives no figure', () => {
    const calls = [call('fail', 'pass'), call('fail', 'fail'), ...times(8, call('pass', 'pass'))];
    expect(judgeCalls(calls, 5).weighted!).toBeLessThan(judgeCalls(calls, 1).weighted!);
    expect(judgeCalls([call('fail', null)], 2)).toMatchObject({
      n: 0,
      weighted: null,
      sensitivity: { kind: 'none' },
      kappa: { kind: 'none' },
      medianMs: null,
    });
    expect(() => judgeCalls([], 0.5)).toThrow('agreement.bad_weight');
  });
  it('two people are compared where both called', () => {
    expect(agreementOf(['pass', 'fail', null, 'fail'], ['pass', 'pass', 'pass', 'fail'])).toMatchObject({
      n: 3,
      same: 2,
    });
  });
});
