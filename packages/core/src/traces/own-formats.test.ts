import { describe, expect, it } from 'vitest';
import { numbers } from '../numbers-for-tests.ts';
import { traceFromCsv, traceFromJson, traceToCsv, traceToJson } from './own-formats.ts';
import type { Trace } from './trace.ts';

const traceOf = (seed: number): Trace => {
  const rng = numbers(seed);
  return {
    wavelengthNm: 1310 + Math.floor(rng() * 300),
    pulseNs: 1 + Math.floor(rng() * 1000),
    groupIndex: 1.46 + rng() / 50,
    backscatterDb: seed % 3 === 0 ? null : -79.5,
    averages: Math.floor(rng() * 1e6),
    firstM: rng() * 10,
    spacingM: 0.01 + rng(),
    levelsDb: Float64Array.from({ length: 2 + seed * 7 }, () => -Math.round(rng() * 65_535) / 1000),
  };
};
const TRACE = traceOf(4);
const code = (act: () => unknown): string => {
  try {
    act();
    return 'read';
  } catch (error) {
    return String((error as Error).message);
  }
};

describe.each([
  ['JSON', traceToJson, traceFromJson],
  ['CSV', traceToCsv, traceFromCsv],
] as const)('%s', (_, write, read) => {
  it.each([1, 2, 3, 4, 5, 6])('comes back as it went, trace %i', (seed) => {
    expect(read(write(traceOf(seed)))).toEqual(traceOf(seed));
  });
  it('without a format of ours, or empty, is refused', () => {
    expect(code(() => read(write(TRACE).replace('clear-mark trace 1', 'another')))).toContain('"format"');
    expect(code(() => read(''))).toMatch(/trace\.bad_/);
  });
  it.each(['wavelength_nm', 'group_index', 'spacing_m'])(
    'whose %s is zero is refused by its name',
    (field) => {
      const spoilt = write(TRACE).replace(new RegExp(`("?${field}"?[:,])[\\d.e-]+`), '$10');
      expect(code(() => read(spoilt))).toBe(`trace.bad_field {"field":"${field}"}`);
    },
  );
});

describe('JSON', () => {
  it.each([
    ['{', 'JSON'],
    ['null', 'format'],
    ['{"format": "clear-mark trace 1"}', 'levels_db'],
    [traceToJson(TRACE).replace(/"levels_db":\[[^,]+/, '"levels_db":["x"'), 'levels_db'],
    [traceToJson(TRACE).replace(/"levels_db":\[[^,]+/, '"levels_db":[1'), 'levels_db'],
    [JSON.stringify({ ...JSON.parse(traceToJson(TRACE)), levels_db: [0] }), 'levels_db'],
    [JSON.stringify({ ...JSON.parse(traceToJson(TRACE)), averages: 'many' }), 'averages'],
  ])('%.40s is refused', (text, field) => {
    expect(code(() => traceFromJson(text))).toBe(`trace.bad_field {"field":"${field}"}`);
  });
});

describe('CSV', () => {
  const lines = traceToCsv(TRACE).split('\n');
  it('with a byte-order mark and the line ends of Windows is read', () => {
    expect(traceFromCsv(`\uFEFF${lines.join('\r\n')}`)).toEqual(TRACE);
  });
  it.each([
    ['a header of another', lines.map((l) => (l.startsWith('position') ? 'a,b' : l)), 9],
    ['decimal commas', lines.map((l, i) => (i === 12 ? '1,5,-3,2' : l)), 13],
    ['a word for a number', lines.map((l, i) => (i === 14 ? '1,low' : l)), 15],
    ['a level that is missing', lines.map((l, i) => (i === 14 ? '1,' : l)), 15],
  ])('%s is refused by its line', (_, changed, line) => {
    expect(code(() => traceFromCsv(changed.join('\n')))).toBe(`trace.bad_line {"line":${line}}`);
  });
});
