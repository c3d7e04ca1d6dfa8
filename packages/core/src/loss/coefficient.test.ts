import { describe, expect, it } from 'vitest';
import { readCoefficient } from './coefficient.ts';

describe('a fiber’s coefficient as people write it', () => {
  it.each([
    ['0.35', 0.35],
    ['0,35 dB/km', 0.35],
    ['3 dB per km', 3],
    // 1 ft is 0.3048 m by definition: 1000 ft are 0.3048 km.
    ['1 dB/1000 ft', 1 / 0.3048],
    ['1 dB per kft', 1 / 0.3048],
    ['0.001 dB/ft', 1 / 0.3048],
    ['0.1 dB per 100 m', 1],
    ['0.1 dB per 33 m', 100 / 33],
    ['0.1 dB per 600 ft', 0.1 / (600 * 0.3048e-3)],
    // Common practice: one coefficient in three forms.
    ['3.0 dB/km; 0.1 dB per 33 m; 0.1 dB per 109 ft', 3],
    ['1.0 dB/km = 0.1 dB per 100 m or 0.1 dB per 330 ft', 1],
  ])('%s', (text, dbPerKm) => {
    const read = readCoefficient(text);
    expect(read.kind).toBe('coefficient');
    expect(read.kind === 'coefficient' && read.dbPerKm).toBeCloseTo(dbPerKm, 12);
  });

  it('catches the slip of two forms said in one breath', () => {
    const read = readCoefficient('1 dB/km = 0.1 dB per 600 ft');
    expect(read).toMatchObject({ kind: 'forms_disagree', second: { text: '0.1 dB per 600 ft' } });
    expect(read.kind === 'forms_disagree' && read.second.dbPerKm).toBeCloseTo(0.5468, 4);
  });

  it.each([
    ['', { kind: 'empty' }],
    ['  ', { kind: 'empty' }],
    ['much', { kind: 'not_a_coefficient', text: 'much' }],
    ['0.1 dB per 0 ft', { kind: 'not_a_coefficient' }],
    ['0.35 dB/mile', { kind: 'not_a_coefficient' }],
    ['1 dB/km;', { kind: 'not_a_coefficient' }],
    ['0.35 dBm/km', { kind: 'not_a_coefficient' }],
    ['0', { kind: 'out_of_range', dbPerKm: 0 }],
    ['50', { kind: 'out_of_range', dbPerKm: 50 }],
    ['0.35 dB/m', { kind: 'out_of_range', text: '0.35 dB/m' }],
    ['-1', { kind: 'not_a_coefficient', text: '-1' }],
  ])('%j is none', (text, wanted) => expect(readCoefficient(text)).toMatchObject(wanted));

  it('takes 0.1 and 20 dB/km, the ends of its range', () => {
    expect(readCoefficient('0.1').kind).toBe('coefficient');
    expect(readCoefficient('20').kind).toBe('coefficient');
    expect(readCoefficient('0.0999').kind).toBe('out_of_range');
    expect(readCoefficient('20.01').kind).toBe('out_of_range');
  });
});
