import { describe, expect, it } from 'vitest';
import { checkSheet } from '../sheet/index.ts';
import { check, entry, sheetOf, step } from './entries-for-tests.ts';
import { score } from './score.ts';

const SOURCE = { kind: 'house', fromMemory: false, words: 'test' } as const;
const length = (id: string, least: string, more: object = {}) =>
  ({
    ...check(id),
    kind: 'measure',
    unit: 'mm',
    band: { lower: { value: least, source: SOURCE } },
    ...more,
  }) as never;
const sheet = sheetOf(step('s', 'strip', [length('tube', '100'), length('strip', '20', { less: 'tube' })]));
const mm = (id: string, text: string, unit = 'mm') => entry(id, { kind: 'measure', text, unit } as never);
const strip = (...entries: ReturnType<typeof mm>[]) => score(sheet, entries).criteria[1]!;

describe('a length less another one', () => {
  it('is judged by what is left, to the last digit', () => {
    expect(strip(mm('tube', '860'), mm('strip', '900'))).toMatchObject({ verdict: 'pass', value: 40 });
    expect(strip(mm('tube', '860.1'), mm('strip', '880,1'))).toMatchObject({ verdict: 'pass', value: 20 });
    expect(strip(mm('tube', '860.1'), mm('strip', '880.09'))).toMatchObject({
      verdict: 'fail',
      reasons: [{ code: 'band.under' }],
    });
  });
  it('compares lengths in units of their own: 36 in are 914.4 mm', () =>
    expect(strip(mm('tube', '860'), mm('strip', '36', 'in'))).toMatchObject({
      verdict: 'pass',
      value: 54.4,
    }));
  it('a strip shorter than its tube says by how much', () =>
    expect(strip(mm('tube', '860'), mm('strip', '848'))).toMatchObject({
      verdict: 'fail',
      earned: 0,
      reasons: [{ code: 'band.shorter_than', params: { criterion: 'tube', by: '12' } }],
    }));
  it('waits for the other, in whichever order they come', () => {
    expect(strip(mm('strip', '900'))).toMatchObject({ state: 'open', verdict: 'incomplete' });
    expect(strip(mm('strip', '900'), mm('tube', '860')).verdict).toBe('pass');
  });
});

describe('a sheet with a length less another one', () => {
  const made = (more: object) =>
    sheetOf(step('s', 'strip', [length('tube', '100'), check('c'), length('strip', '20', more)]));
  it('needs one of the same unit that stands by itself', () => {
    expect(() => checkSheet(made({ less: 'tube' }))).not.toThrow();
    for (const less of ['nothing', 'c', 'strip']) {
      expect(() => checkSheet(made({ less }))).toThrow('sheet.less_target');
    }
    expect(() => checkSheet(made({ less: 'tube', unit: 'deg' }))).toThrow('sheet.less_target');
  });
});
