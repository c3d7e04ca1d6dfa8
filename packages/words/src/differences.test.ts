import { describe, expect, it } from 'vitest';
import { noDifferenceWords, differenceWords } from './differences.ts';

const found = {
  skill: 'cleave',
  id: 'x',
  label: 'Cleaver 9',
  k: 60,
  n: 100,
  expected: 0.8,
  p: 0.001,
} as const;

describe('trainee or tool, in words', () => {
  it('says against whom, by how much, and what it speaks for', () => {
    expect(differenceWords({ ...found, source: 'cleaver', difference: -0.2, low: -0.28, high: -0.12 })).toBe(
      'Cleaver 9, cleaving: 20 points fewer pass (12 to 28) than with another cleaver in the same hands in the same weeks; ' +
        '60 of 100 passed. That speaks for the cleaver, not the trainees.',
    );
    expect(
      differenceWords({
        ...found,
        label: 'Ines Marl',
        source: 'trainee',
        difference: 0.1,
        low: 0.04,
        high: 0.16,
      }),
    ).toContain('10 points more pass (4 to 16) than of the others in the same weeks');
  });
  it('and what nothing means', () => {
    expect(noDifferenceWords(0)).toContain('cannot be told apart');
    expect(noDifferenceWords(12)).toContain('beyond chance');
  });
});
