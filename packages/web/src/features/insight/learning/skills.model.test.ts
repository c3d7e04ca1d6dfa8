import { describe, expect, it } from 'vitest';
import { firstPassWords, paceWords, trendWords } from './skills.model.ts';

const odds = (factor: number, low: number, high: number) => ({ odds: { factor, low, high }, oddsNone: null });

describe('how a skill is learned, in words', () => {
  it('calls a trend one only when its interval leaves 1 out', () => {
    expect(trendWords(odds(0.9, 0.85, 0.95))).toContain('It is being learned');
    expect(trendWords(odds(1.2, 1.1, 1.3))).toContain('It gets worse');
    expect(trendWords(odds(0.9, 0.7, 1.1))).toContain('No trend beyond chance');
    expect(trendWords({ odds: null, oddsNone: 'all_pass' })).toContain('Everything passed');
    expect(trendWords({ odds: null, oddsNone: null })).toBe('');
  });
  it('counts those who have not passed, and says when half have not', () => {
    const of = (n: number, passed: number, median: number | null) =>
      firstPassWords({ n, passed, median, medianLow: null, medianHigh: median }, 'attempts');
    expect(of(8, 8, 1)).toBe('Half have passed after 1 attempt (95 % interval none to 1); all have passed.');
    expect(of(8, 7, 2.5)).toContain('2.5 attempts (95 % interval none to 2.5); 1 of 8 have not passed yet');
    expect(of(1, 1, 2)).toBe('One trainee, all passed: too few for a median.');
    expect(of(3, 0, null)).toBe('3 trainees, none has passed: too few for a median.');
    expect(of(8, 1, null)).toBe(
      'Fewer than half have passed so far; 7 of 8 have not passed yet and are counted as such.',
    );
    expect(of(0, 0, null)).toBe('Nobody has tried.');
  });
  it('the time of a piece', () => {
    expect(paceWords({ first: 31.2, onDoubling: 0.8, r2: 0.42, n: 90 })).toBe(
      'About 31 minutes for a first piece, 20 % less with every doubling of the attempts; that explains 42 % of the spread.',
    );
    expect(paceWords({ first: 10, onDoubling: 1, r2: null, n: 4 })).toContain('no change with practice');
    expect(paceWords(null)).toContain('Too few');
  });
});
