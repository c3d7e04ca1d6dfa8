import { describe, expect, it } from 'vitest';
import { parseReading, placePaste } from './index.ts';

describe('a reading as it is written', () => {
  it.each([
    ['0.31', 'dB', '0.31', 'dB'],
    ['0,31 dB', 'dB', '0,31', 'dB'],
    ['0.31dB', 'dB', '0.31', 'dB'],
    [' -12.40 dBm ', 'dB', '-12.40', 'dBm'],
    ['−12.4 dBm', 'dBm', '-12.4', 'dBm'],
    ['- 3', 'dBm', '-3', 'dBm'],
    ['3 µW', 'dBm', '3', 'uW'],
    ['3 μW', 'dBm', '3', 'uW'],
    ['0.8°', 'deg', '0.8', 'deg'],
    ['0.8 degrees', 'deg', '0.8', 'deg'],
    ['1.5"', 'mm', '1.5', 'in'],
    ['12 MM', 'mm', '12', 'mm'],
  ] as const)('%s', (cell, unit, text, found) => {
    expect(parseReading(cell, unit)).toEqual({ text, unit: found });
  });
  it.each([
    ['', 'value.not_a_number'],
    ['n/a', 'value.not_a_number'],
    ['1.2.3', 'value.not_a_number'],
    ['1,234.5', 'value.not_a_number'],
    ['0.3 0.4', 'value.not_a_number'],
    ['1e5', 'value.wrong_unit'],
    ['0.31 mm', 'value.wrong_unit'],
    ['0.31 furlongs', 'value.wrong_unit'],
  ])('refused: %s', (cell, code) => {
    expect(() => parseReading(cell, 'dB')).toThrow(code);
  });
});

const shape = { rows: 12, columns: 2 };
const at = { row: 0, column: 0 };

describe('a paste from a spreadsheet', () => {
  it('rows by lines, columns by tabs, from the cell with the cursor', () => {
    const cells = placePaste('0.21\t0.30\r\n0,22\t0.31\r\n', shape, { row: 3, column: 0 }, 'dB');
    expect(cells.map((c) => [c.row, c.column, c.reading?.text])).toEqual([
      [3, 0, '0.21'],
      [3, 1, '0.30'],
      [4, 0, '0,22'],
      [4, 1, '0.31'],
    ]);
  });
  it('thirteen columns on twelve: twelve taken, one marked', () => {
    const line = Array.from({ length: 13 }, (_, i) => `0.${20 + i}`).join('\t');
    const cells = placePaste(line, { rows: 1, columns: 12 }, at, 'dB');
    expect(cells.filter((c) => c.reading !== null)).toHaveLength(12);
    expect(cells.filter((c) => c.problem !== null)).toEqual([
      expect.objectContaining({
        column: 12,
        written: '0.32',
        problem: { code: 'grid.beyond', params: { rows: 1, columns: 12 } },
      }),
    ]);
  });
  it('a line of fibers runs down a grid of one column', () => {
    const cells = placePaste('0.01\t0.02\t0.03', { rows: 12, columns: 1 }, at, 'dB');
    expect(cells.map((c) => c.row)).toEqual([0, 1, 2]);
  });
  it('good cells stand beside bad ones; empty ones say nothing; semicolons part where there is no tab', () => {
    const cells = placePaste('0,31 dB;;dark\n;0.4', shape, at, 'dB');
    expect(cells.map((c) => [c.row, c.column, c.problem?.code ?? c.reading?.text])).toEqual([
      [0, 0, '0,31'],
      [0, 2, 'grid.beyond'],
      [1, 1, '0.4'],
    ]);
    expect(placePaste('no light', { rows: 1, columns: 1 }, at, 'dB')[0]!.problem!.code).toBe(
      'value.not_a_number',
    );
  });
});
