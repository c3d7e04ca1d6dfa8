import { describe, expect, it } from 'vitest';
import { createFramer, isSteady, powerReading, responseElements, sentNumber } from './index.ts';

describe('messages out of a byte stream', () => {
  it('whole lines, in whatever pieces they come', () => {
    const text = 'one\r\ntwo\n"a;b\nc",4\n#15a\nb;c;x\n';
    const want = ['one', 'two', '"a;b\nc",4', '#15a\nb;c;x'];
    expect(createFramer(100).push(text).messages).toEqual(want);
    for (let size = 1; size < 7; size++) {
      const framer = createFramer(100);
      const found: string[] = [];
      for (let at = 0; at < text.length; at += size)
        found.push(...framer.push(text.slice(at, at + size)).messages);
      expect(found).toEqual(want);
      expect(framer.partial()).toBe(false);
    }
  });
  it('a line that never ends fails, once and for good', () => {
    const framer = createFramer(1000);
    let failed: string | null = null;
    let pieces = 0;
    while (failed === null && pieces++ < 5000) failed = framer.push('x'.repeat(200)).failed;
    expect(failed).toBe('line_too_long');
    expect(pieces).toBe(6);
    expect(framer.push('ok\n')).toEqual({ messages: [], failed: 'line_too_long' });
  });
  it('a block with a bad head fails, and one longer than allowed too', () => {
    expect(createFramer(100).push('#x12\n').failed).toBe('bad_block');
    expect(createFramer(100).push('#3a12\n').failed).toBe('bad_block');
    expect(createFramer(100).push(`#9999999999${'y'.repeat(200)}`).failed).toBe('line_too_long');
  });
  it('half a message is known to be half', () => {
    const framer = createFramer(100);
    expect(framer.push('1.31E-06;DB').messages).toEqual([]);
    expect(framer.partial()).toBe(true);
  });
});

describe('elements and numbers', () => {
  it('separators, strings and blocks', () => {
    expect(responseElements('1.31E-06;DBM;-2.1E+01')).toEqual(['1.31E-06', 'DBM', '-2.1E+01']);
    expect(responseElements('-113,"Undefined header; x"')).toEqual(['-113', 'Undefined header; x']);
    expect(responseElements('#17{"a":1};2')).toEqual(['{"a":1}', '2']);
    expect(responseElements('"open')).toEqual(['"open']);
  });
  it.each([
    ['12', 12],
    ['+1.5', 1.5],
    ['-2.345E+01', -23.45],
    ['.5', 0.5],
    ['3.', 3],
  ])('%s', (text, value) => {
    expect(sentNumber(text)).toMatchObject({ state: 'number', value });
  });
  // SCPI 1999, 7.2.1.4 and 7.2.1.5: infinity and not a number.
  it.each([
    ['9.91E37', 'not_a_number'],
    ['9.910000E+37', 'not_a_number'],
    ['NAN', 'not_a_number'],
    ['9.9E37', 'over_range'],
    ['INF', 'over_range'],
    ['-9.9E+37', 'under_range'],
    ['NINF', 'under_range'],
    ['', 'unreadable'],
    ['12dB', 'unreadable'],
    ['1,2', 'unreadable'],
    ['0x10', 'unreadable'],
    ['1e9999', 'unreadable'],
  ])('%s is %s', (text, state) => {
    expect(sentNumber(text)).toEqual({ state });
  });
});

describe('a reading with its own wavelength and unit', () => {
  it('reads', () => {
    expect(powerReading('1.310000E-06;DBM;-2.13456E+01')).toEqual({
      state: 'reading',
      text: '-21.346',
      unit: 'dBm',
      wavelengthNm: 1310,
    });
    expect(powerReading('8.5E-07;W;1.25E-05')).toMatchObject({
      text: '0.0125',
      unit: 'mW',
      wavelengthNm: 850,
    });
    expect(powerReading('1.55E-06;W;2.5E-09')).toMatchObject({ text: '0.0000025', unit: 'mW' });
    expect(powerReading('1.55E-06;DB;0.0000')).toMatchObject({ text: '0', unit: 'dB' });
  });
  it.each([
    ['1.31E-06;DBM;9.91E37', 'not_a_number'],
    ['1.31E-06;DBM;9.9E37', 'over_range'],
    ['1.31E-06;DBM', 'unreadable'],
    ['1.31E-06;DBM;-21.3;4', 'unreadable'],
    ['0;DBM;-21.3', 'unreadable'],
    ['NAN;DBM;-21.3', 'unreadable'],
    ['1.31E-06;FURLONG;3', 'unknown_unit'],
    ['%&/();;x', 'unreadable'],
    ['', 'unreadable'],
  ])('%s is never a number', (message, why) => {
    expect(powerReading(message)).toEqual({ state: 'failed', why });
  });
  it('no power is no light', () => {
    expect(powerReading('1.31E-06;DBM;-9.9E37')).toEqual({ state: 'no_light', wavelengthNm: 1310 });
    expect(powerReading('1.31E-06;W;0')).toEqual({ state: 'no_light', wavelengthNm: 1310 });
  });
});

describe('a reading that has settled', () => {
  const at = (...levels: number[]) => levels.map((level, i) => ({ level, atMs: i * 200 }));
  it('stands for a second and a half', () => {
    expect(isSteady(at(5, 5.01, 5, 5.02, 5, 5, 5.01, 5, 5))).toBe(true);
    expect(isSteady(at(5, 5, 5))).toBe(false);
    expect(isSteady([])).toBe(false);
  });
  // Common practice: 0.75 can become 0.49 while one waits.
  it('wanders no more', () => {
    expect(isSteady(at(0.75, 0.7, 0.66, 0.61, 0.57, 0.54, 0.52, 0.5, 0.49))).toBe(false);
    expect(
      isSteady([
        ...at(0.75, 0.6),
        ...at(...Array<number>(9).fill(0.49)).map((l) => ({ ...l, atMs: l.atMs + 400 })),
      ]),
    ).toBe(true);
  });
});
