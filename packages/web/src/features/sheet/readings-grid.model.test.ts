import type { EntryValue, LossReference, PartOutcome } from '@clear-mark/core';
import { SHIPPED_METHODS } from '@clear-mark/methods';
import { describe, expect, it } from 'vitest';
import { cellText, columnFacts, gridOf, type GridCriterion, readCell } from './readings-grid.model.ts';

const find = (method: string, name: string): GridCriterion =>
  SHIPPED_METHODS.find((m) => m.id === `clear-mark/${method}`)!
    .steps.flatMap((s) => s.criteria)
    .find((c) => c.id.endsWith(`/${name}`)) as GridCriterion;
const estimates = find('ribbon-splice', 'estimates');
const loss = find('mpo-trunk', 'loss');
const both = { ...loss, directions: ['a_b', 'b_a'] } as GridCriterion;
const reference: LossReference = {
  id: 'r',
  method: 'one_cord',
  wavelengthNm: 850,
  valueDbm: '-20.00',
  setAt: '2026-03-02T09:00:00Z',
  showsNegative: false,
  rereadDbm: null,
  voidReason: null,
};

describe('the grid of a criterion', () => {
  it('rows of fibers, columns of wavelengths and directions', () => {
    const grid = gridOf(both);
    expect(grid.fibers).toHaveLength(12);
    expect(grid.columns.map((c) => c.label)).toEqual([
      '850 nm, A to B',
      '850 nm, B to A',
      '1300 nm, A to B',
      '1300 nm, B to A',
    ]);
    expect(grid.partAt(6, 3)).toBe('f7.1300.b_a');
    expect(grid.placeOf('f7.1300.b_a')).toEqual({ row: 6, column: 3 });
    expect(grid.partAt(12, 0)).toBeNull();
    expect(grid.partAt(0, 4)).toBeNull();
  });
  it('every part has one place, and every place one part', () => {
    for (const criterion of [estimates, loss, both]) {
      const grid = gridOf(criterion);
      for (const [row] of grid.fibers.entries()) {
        for (const [column] of grid.columns.entries()) {
          expect(grid.placeOf(grid.partAt(row, column)!)).toEqual({ row, column });
        }
      }
    }
  });
});

describe('what a cell says', () => {
  const read = (text: string, unit: 'dB' | 'dBm' | 'uW' = 'dB') =>
    readCell(loss, 'f1.850', text, unit, reference);
  it('takes numbers with and without their unit', () => {
    expect(read('0,31 dB')).toEqual({
      state: 'value',
      value: { kind: 'loss', text: '0,31', unit: 'dB', referenceId: 'r' },
    });
    expect(read('-20.42', 'dBm')).toMatchObject({ value: { text: '-20.42', unit: 'dBm' } });
    expect(read('-20.42 dBm')).toMatchObject({ value: { unit: 'dBm' } });
    expect(readCell(estimates, 'f3', '0.03', 'dB', null)).toMatchObject({
      value: { kind: 'measure', text: '0.03', unit: 'dB' },
    });
  });
  it.each(['x', 'dark', 'No light'])('%s is no light', (text) => {
    expect(read(text)).toMatchObject({ state: 'value', value: { noLight: true } });
  });
  it('asks about a slip of the decimal sign', () => {
    expect(read('4.8')).toMatchObject({ state: 'ask', value: { text: '4.8' } });
    expect(readCell(estimates, 'f3', '0.3', 'dB', null)).toMatchObject({ state: 'ask' });
    expect(readCell(estimates, 'f3', '30', 'dB', null)).toMatchObject({ state: 'value' });
  });
  it('marks what it cannot take', () => {
    expect(read('lots')).toMatchObject({ state: 'bad', code: 'value.not_a_number' });
    expect(read('0.31 mm')).toMatchObject({ state: 'bad', code: 'value.wrong_unit' });
    expect(readCell(loss, 'f1.850', '0.3', 'dB', null)).toMatchObject({ code: 'entry.no_reference' });
    expect(readCell(loss, 'f13.850', '0.3', 'dB', reference)).toMatchObject({ code: 'value.unknown_part' });
    expect(read('  ')).toEqual({ state: 'empty' });
  });
  it('shows a standing value as it was written', () => {
    const value = (more: object): EntryValue =>
      ({ kind: 'loss', unit: 'dB', referenceId: 'r', ...more }) as EntryValue;
    expect(cellText(value({ text: '0,31' }), 'dB')).toBe('0,31');
    expect(cellText(value({ text: '3', unit: 'uW' }), 'dB')).toBe('3 µW');
    expect(cellText(value({ noLight: true }), 'dB')).toBe('dark');
    expect(cellText(null, 'dB')).toBe('');
    for (const text of ['0,31', '3 µW', 'dark']) expect(read(text).state).toBe('value');
  });
});

describe('what a column comes to', () => {
  const part = (fiber: number, value: number | null): PartOutcome => ({
    part: `f${fiber}`,
    verdict: 'pass',
    reason: null,
    entryId: null,
    value,
  });
  const column = { wavelengthNm: null, direction: null, label: '' };
  it('worst with the lowest number on a tie, mean and spread', () => {
    const facts = columnFacts(column, [part(1, 0.02), part(2, 0.08), part(3, 0.08), part(4, null)], false);
    expect(facts).toMatchObject({ read: 3, worst: { fiber: 2, value: 0.08 } });
    expect(facts.mean).toBeCloseTo(0.06, 12);
    expect(facts.spread).toBeCloseTo(0.06, 12);
    expect(columnFacts(column, [part(1, 2), part(2, 1)], true).worst).toEqual({ fiber: 2, value: 1 });
  });
  it('says nothing of nothing', () => {
    expect(columnFacts(column, [part(1, null)], false)).toEqual({
      read: 0,
      worst: null,
      mean: null,
      spread: null,
    });
  });
});
