import { describe, expect, it } from 'vitest';
import { filterChips } from './filter-chips.model.ts';
import type { AttemptListFilter } from '@clear-mark/contract';

const names = { trainee: 'Ada', thing: null, criterion: null };
const words = (filter: AttemptListFilter): string =>
  filterChips(filter, names)
    .map((c) => c.words)
    .join(' · ');

describe('what a list is narrowed to', () => {
  it('is said in words, one chip each', () => {
    expect(words({})).toBe('');
    expect(words({ skill: 'cleave', verdict: 'judged', trainee: 'x', last: 10 })).toBe(
      'Cleaving · with a verdict · the last 10 · Ada',
    );
    expect(words({ skill: 'strip', nth: 3, verdict: 'judged' })).toBe(
      'Stripping · with a verdict · each trainee’s attempt 3',
    );
    expect(words({ wavelength: 1310, lossFrom: 0.75, lossTo: 0.8 })).toBe(
      'reading at 1310 nm from 0.75 to 0.80 dB',
    );
    expect(words({ wavelength: 1310, lossFrom: 0.75 })).toBe('reading at 1310 nm of 0.75 dB and more');
    expect(words({ from: '2026-03-02', to: '2026-03-02' })).toMatch(/^(2 Mar|Mar 2)/);
    expect(words({ from: '2026-03-02' })).toMatch(/ to now$/);
    expect(words({ search: 'AB-3', instructor: 'x', method: 'm' })).toBe(
      '“AB-3” · one method · signed by one instructor',
    );
  });
  it('a chip takes away all that belongs to it', () => {
    const [reading, days] = filterChips(
      { wavelength: 1310, lossFrom: 0.1, from: '2026-03-02', to: '2026-03-09' },
      names,
    );
    expect(reading!.keys).toEqual(['wavelength', 'direction', 'lossFrom', 'lossTo']);
    expect(days!.keys).toEqual(['from', 'to']);
  });
  it('every choice that a list has leaves a chip, so that nothing is narrowed unseen', () => {
    const all: Required<Omit<AttemptListFilter, 'sort' | 'up' | 'skip'>> = {
      search: 's',
      trainee: 't',
      method: 'm',
      verdict: 'failed',
      skill: 'strip',
      thing: 'th',
      instructor: 'i',
      from: '2026-03-02',
      to: '2026-03-03',
      criterion: 'c',
      firstOnly: 'yes',
      nth: 2,
      last: 5,
      wavelength: 1310,
      direction: 'ab',
      lossFrom: 0.1,
      lossTo: 0.2,
    } as never;
    const told = new Set(filterChips(all as AttemptListFilter, names).flatMap((c) => c.keys));
    expect(Object.keys(all).filter((key) => !told.has(key))).toEqual([]);
  });
});
