import { summarizeSkill, wilsonRate } from '@clear-mark/core';
import type { LossSample, Results } from '@clear-mark/contract';
import { describe, expect, it } from 'vitest';

import { rateWords } from '@clear-mark/words';
import { barsOf, firstPasses, needs } from './insight.model.ts';

const cell = (standing: string, k: number, n: number) => ({
  skill: 'cleave' as const,
  standing: standing as 'watch',
  evidence: { code: 'standing.learning', params: {} },
  window: '',
  rate: wilsonRate(k, n),
  behind: null,
});
const row = (name: string, ...cells: ReturnType<typeof cell>[]) => ({
  traineeId: name,
  traineeName: name,
  cells,
});

describe('who needs what again', () => {
  it('retrain first, then lapsed, then watch; the lower rate first', () => {
    const results = {
      standings: [
        row('A', cell('watch', 9, 10), cell('competent', 9, 10)),
        row('B', cell('retrain', 5, 10)),
        row('C', cell('retrain', 2, 10), cell('learning', 0, 2)),
        row('D', cell('lapsed', 9, 10)),
      ],
    } as unknown as Results;
    expect(needs(results).map((n) => `${n.traineeName} ${n.cell.standing}`)).toEqual([
      'C retrain',
      'B retrain',
      'D lapsed',
      'A watch',
    ]);
  });
});

describe('rates in words', () => {
  it('never without n and interval', () => {
    expect(rateWords(wilsonRate(2, 2))).toBe('2 of 2, 100 % (34 to 100)');
    expect(rateWords(wilsonRate(0, 0))).toBe('none yet');
  });
});

describe('first passes', () => {
  it('keeps those who have not passed', () => {
    const summary = summarizeSkill(['P', 'P', 'FP', 'FFFFFP', 'FF', 'I']);
    expect(firstPasses({ ...summary, firstPassAt: [...summary.firstPassAt] })).toEqual([
      { label: '1.', count: 2 },
      { label: '2.', count: 1 },
      { label: 'later', count: 1 },
      { label: 'not yet', count: 1 },
    ]);
  });
});

describe('bars', () => {
  it('have clean edges', () => {
    const sample = { histogram: { from: 0.1, width: 0.05, counts: [1, 2] } } as LossSample;
    expect(barsOf(sample)).toEqual([
      { from: 0.1, to: 0.15, count: 1 },
      { from: 0.15, to: 0.2, count: 2 },
    ]);
  });
});
