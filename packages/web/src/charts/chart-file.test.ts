import { describe, expect, it } from 'vitest';
import { tableCsv } from './chart-file.ts';

describe('a chart as a file', () => {
  it('quotes what needs it, and leaves no formula to a spreadsheet', () => {
    const table = {
      head: ['who', 'dB'],
      rows: [
        ['Marl, "the" 2nd', 0.25],
        ['=cmd()', null],
      ] as const,
    };
    expect(tableCsv(table)).toBe('who,dB\r\n"Marl, ""the"" 2nd",0.25\r\n\'=cmd(),\r\n');
    expect(tableCsv({ head: ['a'], rows: [] })).toBe('a\r\n');
  });
});
