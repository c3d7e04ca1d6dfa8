import { judgeCalls } from '@clear-mark/core';
import { describe, expect, it } from 'vitest';
import { choiceProblem, kappaWords, nearestToLimit, rateWords, resultSentence } from './calls.model.ts';

const call = (reference: 'pass' | 'fail', said: 'pass' | 'fail' | null) => ({
  reference,
  said,
  kinds: [],
  ms: null,
});

describe('calls in words', () => {
  it('a rate says of how many it is, and its interval', () => {
    const { sensitivity, specificity } = judgeCalls([call('fail', 'fail'), call('fail', 'pass')], 3);
    expect(rateWords(sensitivity)).toBe('1 of 2, 50 % (9 % to 91 %)');
    expect(rateWords(specificity)).toBe('none to tell from');
  });
  it('kappa says when it cannot be told', () => {
    expect(kappaWords({ kind: 'none', n: 3 })).toContain('not to be told');
    expect(
      kappaWords({ kind: 'kappa', n: 9, kappa: 0.5, error: 0.1, errorAtZero: null, low: 0.3, high: 0.7 }),
    ).toBe('0.50 (0.30 to 0.70)');
  });
  it.each([
    [[], 'No face was called.'],
    [[call('fail', 'fail'), call('pass', 'pass')], 'All 2 were called as the reference does.'],
    [
      [call('fail', 'pass'), call('pass', 'fail'), call('pass', 'fail')],
      '1 bad face was called good, 2 good ones were called bad.',
    ],
    [[call('pass', 'fail'), call('pass', null)], '1 good one was called bad. 1 without a call.'],
  ])('sentence %#', (calls, words) => expect(resultSentence(judgeCalls(calls, 3))).toBe(words));
  it('those nearest to the limit are chosen, as many good ones as bad ones', () => {
    const faces = [0.02, 0.4, 0.99, 0.6, 0.9, null, 0.45].map((chance, i) => ({
      id: String(i),
      verdict: chance === null ? null : chance < 0.5 ? ('fail' as const) : ('pass' as const),
      chance,
    }));
    expect(nearestToLimit(faces, 4)).toEqual(['6', '1', '3', '4']);
    expect(nearestToLimit(faces, 12)).toEqual(['6', '1', '0', '3', '4', '2']);
    expect(nearestToLimit(faces.slice(0, 2), 12)).toEqual([]);
  });
  it('what a choice of pictures lacks', () => {
    expect(choiceProblem(['pass', 'fail'])).toMatch('four');
    expect(choiceProblem(['pass', 'pass', 'pass', 'fail'])).toMatch('two bad');
    expect(choiceProblem(['pass', 'pass', 'fail', 'fail', null])).toBeNull();
  });
});
