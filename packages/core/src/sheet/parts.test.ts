import { describe, expect, it } from 'vitest';
import { check, limit, loss } from './sheet-for-tests.ts';
import { parsePart, partKey, partsOf } from './parts.ts';

const grid = (across: object) =>
  check('x', { kind: 'readings', unit: 'dB', band: { upper: limit('1') }, ...across } as never);

describe('parts of a criterion', () => {
  it('fiber by fiber, then wavelength, then direction', () => {
    const keys = partsOf(grid({ fibers: 2, wavelengthsNm: [850, 1300], directions: ['a_b', 'b_a'] })).map(
      partKey,
    );
    expect(keys).toEqual([
      'f1.850.a_b',
      'f1.850.b_a',
      'f1.1300.a_b',
      'f1.1300.b_a',
      'f2.850.a_b',
      'f2.850.b_a',
      'f2.1300.a_b',
      'f2.1300.b_a',
    ]);
  });
  it('what a criterion has one of is not named', () => {
    expect(partsOf(loss('x')).map(partKey)).toEqual(['1310', '1550']);
    expect(partsOf(grid({ fibers: 3 })).map(partKey)).toEqual(['f1', 'f2', 'f3']);
    expect(partsOf(grid({ directions: ['a_b', 'b_a'] })).map(partKey)).toEqual(['a_b', 'b_a']);
    expect(partsOf(check('x')).map(partKey)).toEqual(['']);
  });
  it('every key is read back as it was made', () => {
    for (const fibers of [undefined, 1, 144]) {
      for (const wavelengthsNm of [undefined, [850, 1625]]) {
        for (const directions of [undefined, ['a_b', 'b_a']]) {
          for (const part of partsOf(grid({ fibers, wavelengthsNm, directions }))) {
            expect(parsePart(partKey(part))).toEqual(part);
          }
        }
      }
    }
  });
  it.each(['f', 'f01', 'x', 'a_b.f1', '1310.f1', 'f1..a_b', '.1310', 'f1.1310.', 'f1 1310', '01310'])(
    'no part: %s',
    (key) => {
      expect(() => parsePart(key)).toThrow('value.unknown_part');
    },
  );
});
