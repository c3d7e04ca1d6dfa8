import { describe, expect, it } from 'vitest';
import { check, limit, loss, measure, sheetOf, step } from './sheet-for-tests.ts';
import { checkSheet } from './check-sheet.ts';
import type { Criterion } from './types.ts';

const one = (...criteria: Criterion[]) => sheetOf(step('a', 'strip', criteria));

describe('sheets that scoring could not be trusted with', () => {
  it.each([
    [one(), 'sheet.empty'],
    [one(check('x'), check('x')), 'sheet.repeated_criterion'],
    [sheetOf(step('a', 'strip', [check('x')]), step('a', 'strip', [check('y')])), 'sheet.repeated_step'],
    [one(check('x', { points: -1 })), 'sheet.points'],
    [one(check('x', { points: 1.5 })), 'sheet.points'],
    [one(measure('x', {})), 'sheet.no_limit'],
    [one(measure('x', { lower: limit('5'), upper: limit('4') })), 'sheet.crossed_band'],
    [one(check('x', { kind: 'grade', levels: [] } as never)), 'sheet.scale'],
    [one(loss('x', { wavelengthsNm: [] })), 'sheet.no_wavelength'],
    [one(loss('x', { directions: [] })), 'sheet.no_wavelength'],
    [one(loss('x', { fibers: 0 })), 'sheet.fibers'],
    [one(check('x', { kind: 'readings', unit: 'dB', band: {}, fibers: 12 } as never)), 'sheet.no_limit'],
    [
      one(check('x', { kind: 'readings', unit: 'dB', band: { upper: limit('1') }, fibers: 145 } as never)),
      'sheet.fibers',
    ],
    [one(check('x', { kind: 'map', ports: 11, trunk: 'A' } as never)), 'sheet.ports'],
    [one(check('x', { kind: 'call', of: 'y' } as never)), 'sheet.call_target'],
    [
      one(check('x', { kind: 'call', of: 'y' } as never), check('y', { kind: 'call' } as never)),
      'sheet.call_target',
    ],
  ])('%#', (sheet, code) => {
    expect(() => checkSheet(sheet)).toThrow(code);
  });

  it('takes a sound one as it is', () => {
    const sheet = one(check('x'), measure('y', { lower: limit('4'), upper: limit('4') }), loss('z'));
    expect(checkSheet(sheet)).toBe(sheet);
  });
});
