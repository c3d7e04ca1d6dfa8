import { describe, expect, it } from 'vitest';
import type { DomainError } from '../domain-error.ts';
import type { Criterion } from '../sheet/index.ts';
import { lossTerms } from '../loss/index.ts';
import { checkValue, decimalSlip } from './entry-value.ts';
import { lossSlip } from './judge-loss.ts';
import { check, limit, loss, measure, reference, RULES } from './sheet-for-tests.ts';
import type { EntryValue } from './types.ts';

const length = measure('x', { lower: limit('10'), upper: limit('11') });
const count = check('n', { kind: 'count', noun: 'bites', band: { lower: limit('2') } } as never);
const timed = check('t', { kind: 'timed', band: { upper: limit('120') } } as never);
const grade = check('g', {
  kind: 'grade',
  levels: [{ id: 'good', label: 'Good', verdict: 'pass', points: 10 }],
} as never);

const codeOf = (criterion: Criterion, value: EntryValue, part = ''): string | null => {
  try {
    checkValue(criterion, part, value);
    return null;
  } catch (error) {
    return (error as DomainError).code;
  }
};
const mm = (text: string, unit: 'mm' | 'deg' | 'in' = 'mm'): EntryValue => ({ kind: 'measure', text, unit });

describe('values that are refused before they are stored', () => {
  it.each([
    [length, mm('abc'), 'value.not_a_number'],
    [length, mm('-10.5'), 'value.negative'],
    [length, mm('10.5', 'deg'), 'value.wrong_unit'],
    [length, mm('2000000'), 'value.too_large'],
    [length, { kind: 'count', count: 3 }, 'value.wrong_kind'],
    [count, { kind: 'count', count: -1 }, 'value.bad_count'],
    [count, { kind: 'count', count: 1e9 }, 'value.bad_count'],
    [count, { kind: 'count', count: 2.5 }, 'value.bad_count'],
    [timed, { kind: 'timed', text: '-4' }, 'value.negative'],
    [timed, { kind: 'timed' }, 'value.not_a_number'],
    [
      timed,
      { kind: 'timed', startedAt: '2026-03-02T10:00:05Z', stoppedAt: '2026-03-02T10:00:00Z' },
      'time.backwards',
    ],
    [
      timed,
      { kind: 'timed', startedAt: '2026-03-02T10:00:00Z', stoppedAt: '2026-03-04T10:00:00Z' },
      'value.too_large',
    ],
    [grade, { kind: 'grade', level: 'superb' }, 'value.unknown_level'],
  ] as [Criterion, EntryValue, string][])('%#', (criterion, value, code) => {
    expect(codeOf(criterion, value)).toBe(code);
  });

  it('a reading for a wavelength that the method does not ask for', () => {
    const value: EntryValue = { kind: 'loss', text: '0.3', unit: 'dB', referenceId: 'r' };
    expect(codeOf(loss('loss'), value, '850')).toBe('value.unknown_part');
    expect(codeOf(loss('loss'), value, '1310')).toBeNull();
    expect(codeOf(loss('loss'), { ...value, unit: 'mm' }, '1310')).toBe('value.wrong_unit');
    expect(codeOf(loss('loss'), { ...value, text: 'lo' }, '1310')).toBe('value.not_a_number');
  });

  it('takes what is good', () => {
    expect(codeOf(length, mm('10,5'))).toBeNull();
    expect(codeOf(length, mm('0.41', 'in'))).toBeNull();
    expect(codeOf(timed, { kind: 'timed', text: '1:30' })).toBeNull();
    expect(codeOf(count, { kind: 'count', count: 0 })).toBeNull();
  });
});

describe('slips of the decimal sign', () => {
  it('asks when ten times or a tenth would be inside', () => {
    expect(decimalSlip(length, mm('105'))).toBe('tenth');
    expect(decimalSlip(length, mm('1.05'))).toBe('ten_times');
    expect(decimalSlip(length, mm('10.5'))).toBeNull();
    expect(decimalSlip(length, mm('12'))).toBeNull();
  });

  it('2.0 dB where 0.2 is usual', () => {
    const criterion = loss('loss');
    if (criterion.kind !== 'loss') throw new Error();
    const terms = lossTerms(criterion.link, RULES, 1310);
    const value = { kind: 'loss', text: '2.0', unit: 'dB', referenceId: 'ref1310' } as const;
    expect(lossSlip(value, reference(1310), terms)).toBe('tenth');
    expect(lossSlip({ ...value, text: '0.2' }, reference(1310), terms)).toBeNull();
    expect(lossSlip({ ...value, text: '9' }, reference(1310), terms)).toBeNull();
    expect(lossSlip({ ...value, text: '-7.0', unit: 'dBm' }, reference(1310), terms)).toBeNull();
  });
});
