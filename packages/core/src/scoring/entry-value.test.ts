import { describe, expect, it } from 'vitest';
import type { DomainError } from '../domain-error.ts';
import type { Criterion } from '../sheet/index.ts';
import { lossTerms } from '../loss/index.ts';
import { checkValue, decimalSlip, timerLeftRunning } from './entry-value.ts';
import { dismissPart } from './resolve-entries.ts';
import { lossSlip } from './judge-loss.ts';
import { check, limit, loss, measure, reference, RULES } from './entries-for-tests.ts';
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

  const grid = check('r', {
    kind: 'readings',
    unit: 'dB',
    band: { upper: limit('0.1') },
    fibers: 12,
    directions: ['a_b', 'b_a'],
  } as never);
  it.each([
    ['f1.a_b', null],
    ['f12.b_a', null],
    ['f13.a_b', 'value.unknown_part'],
    ['f1', 'value.unknown_part'],
    ['', 'value.unknown_part'],
    ['f0.a_b', 'value.unknown_part'],
    ['f1.1310.a_b', 'value.unknown_part'],
  ] as const)('a cell of the grid: %s', (part, code) => {
    expect(codeOf(grid, { kind: 'measure', text: '0,05', unit: 'dB' }, part)).toBe(code);
  });
  it('a cell takes the unit of its grid only', () => {
    expect(codeOf(grid, { kind: 'measure', text: '0.05', unit: 'mm' }, 'f1.a_b')).toBe('value.wrong_unit');
    expect(codeOf(grid, { kind: 'count', count: 1 }, 'f1.a_b')).toBe('value.wrong_kind');
  });

  const map = check('m', { kind: 'map', ports: 4, trunk: 'A' } as never);
  it.each([
    [[1, 2, 3, 4], null],
    [[0, 0, null, null], null],
    [[1, 2, 2, 4], 'map.port_twice'],
    [[1, 2, 5, 4], 'map.no_such_port'],
    [[1, 2, -1, 4], 'map.no_such_port'],
    [[1, 2, 2.5, 4], 'map.no_such_port'],
    [[1, 2, 3], 'map.wrong_length'],
    [[1, 2, 3, 4, 5], 'map.wrong_length'],
  ] as const)('a map: %j', (far, code) => {
    expect(codeOf(map, { kind: 'map', far })).toBe(code);
  });
  it('says which ports claim the same one', () => {
    expect(() => checkValue(map, '', { kind: 'map', far: [3, null, 3, null] })).toThrow(
      expect.objectContaining({ params: { criterion: 'm', port: 3, first: 1, second: 3 } }),
    );
  });

  it('a call without anything to compare it with', () => {
    const call = check('c', { kind: 'call' } as never);
    expect(codeOf(call, { kind: 'call', said: 'pass' })).toBe('value.no_reference');
    expect(codeOf(call, { kind: 'call', said: 'pass', reference: 'fail' })).toBeNull();
    expect(codeOf({ ...call, of: 'x' } as Criterion, { kind: 'call', said: 'pass' })).toBeNull();
  });

  it('a charge and a dismissal stand in parts of their own', () => {
    const dismiss: EntryValue = { kind: 'dismiss', symptom: 'high_loss', cause: 'dirt' };
    expect(codeOf(length, dismiss, dismissPart('high_loss', 'dirt'))).toBeNull();
    expect(codeOf(length, dismiss, '')).toBe('value.unknown_part');
    expect(codeOf(length, { kind: 'charge', skill: 'cleave', cause: 'x' }, '')).toBe('value.unknown_part');
  });

  it.each([
    [{ upper: limit('120') }, 14 * 3600, true],
    [{ upper: limit('120') }, 1500, false],
    [{ upper: limit('120') }, 3601, true],
    [{ lower: limit('900'), upper: limit('1200') }, 3 * 3600, false],
    [{ lower: limit('900'), upper: limit('1200') }, 12_001, true],
  ])('a timer left running: %j after %d s: %s', (band, seconds, left) => {
    expect(timerLeftRunning(band, seconds)).toBe(left);
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
