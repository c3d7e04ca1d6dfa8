import { describe, expect, it } from 'vitest';
import { filterWords } from './attempt-table.model.ts';

describe('a list of attempts says what it shows', () => {
  it('in words', () => {
    const names = { trainee: 'Ada', thing: null, criterion: null };
    expect(filterWords({}, names)).toBe('All signed attempts');
    expect(filterWords({ skill: 'cleave', verdict: 'judged', trainee: 'x', last: 10 }, names)).toBe(
      'Cleaving · with a verdict · the last 10 · Ada',
    );
    expect(filterWords({ skill: 'strip', nth: 3, verdict: 'judged' }, names)).toBe(
      'Stripping · with a verdict · each trainee’s attempt 3',
    );
    expect(filterWords({ wavelength: 1310, lossFrom: 0.75, lossTo: 0.8 }, names)).toBe(
      'reading at 1310 nm from 0.75 to 0.80 dB',
    );
  });
});
