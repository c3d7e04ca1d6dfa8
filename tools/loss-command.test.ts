import { describe, expect, it } from 'vitest';
import { judgeLossCase } from './loss-cases.ts';
import { casesFrom } from './loss-command.ts';

const one = (more: object): ReturnType<typeof judgeLossCase> & Record<string, never> => {
  const cases = casesFrom(JSON.stringify([{ name: 'a', referenceMethod: 'one_cord', ...more }]));
  if (typeof cases === 'string') throw new Error(cases);
  return judgeLossCase(cases[0]!) as never;
};
const link = { fiberClass: 'OS2', lengthM: 200, matedPairs: 2, splices: 2 };

describe('loss cases from a file', () => {
  it('limit by the table, with what it is made of', () => {
    const found = one({ link }) as never as { limits: { limitDb: number }[]; verdict: null };
    expect(found.limits.map((l) => l.limitDb)).toEqual([2.3, 2.3]);
    expect(found.verdict).toBeNull();
  });
  // Common practice: 0.1 dB per 33 m (109 ft) of multimode fiber, 0.1 dB per 330 ft of single-mode inside plant.
  it('feet are 0.3048 m', () => {
    const feet = { fiberClass: 'OS2', lengthFt: 330, matedPairs: 0 };
    const found = one({ link: feet }) as never as { limits: { fiberDb: number }[] };
    expect(found.limits[0]!.fiberDb).toBeCloseTo(0.33 * 0.3048, 12);
  });
  it('judges readings, in any unit, against their reference', () => {
    const reading = { wavelengthNm: 1310, value: '-7.35', unit: 'dBm', referenceDbm: '-5.00' };
    const found = one({ link, wavelengthsNm: [1310], readings: [reading] });
    expect(found).toMatchObject({ verdict: 'marginal_fail', readings: [{ verdict: 'marginal_fail' }] });
    const microwatts = { wavelengthNm: 1310, value: '100', unit: 'uW', referenceDbm: '-9.5' };
    expect(one({ link, wavelengthsNm: [1310], readings: [microwatts] })).toMatchObject({ verdict: 'pass' });
  });
  it('a wavelength that was forgotten leaves the test incomplete, and kilometres are a length', () => {
    const read = (wavelengthNm: number) => ({ wavelengthNm, value: '0,8' });
    expect(one({ link, readings: [read(1310)] })).toMatchObject({ verdict: 'incomplete' });
    expect(one({ link, readings: [read(1310), read(1550)] })).toMatchObject({ verdict: 'pass' });
    const km = { fiberClass: 'OS2', lengthKm: 0.2, matedPairs: 2, splices: 2 };
    expect((one({ link: km }) as never as { limits: unknown }).limits).toEqual(
      (one({ link }) as never as { limits: unknown }).limits,
    );
  });
  it('a level at the floor of the meter is no light', () => {
    const dark = { wavelengthNm: 1310, value: '-61', unit: 'dBm', referenceDbm: '-5' };
    const at = (meterFloorDbm: number) => one({ link, meterFloorDbm, readings: [dark] });
    expect(at(-60)).toMatchObject({ verdict: 'fail', readings: [{ lossDb: null, reason: 'loss.no_light' }] });
    expect(at(-65)).toMatchObject({ readings: [{ lossDb: 56 }] });
  });
  it('a reference that was read again narrows the uncertainty of its readings', () => {
    const reading = { wavelengthNm: 1310, value: '-7.18', unit: 'dBm', referenceDbm: '-5.00' };
    const u = (more: object): { readings: { uncertaintyDb: number; verdict: string }[] } =>
      one({ link, wavelengthsNm: [1310], readings: [{ ...reading, ...more }] }) as never;
    // U = 2 sqrt((0.08^2 + 0.1^2 + 0.005^2) / 3); read again to the same level the 0.1 dB that it may move by is gone.
    const whole = 2 * Math.sqrt((0.08 ** 2 + 0.1 ** 2 + 0.005 ** 2) / 3);
    const less = 2 * Math.sqrt((0.08 ** 2 + 0.005 ** 2) / 3);
    expect(u({}).readings[0]!.uncertaintyDb).toBeCloseTo(whole, 12);
    expect(u({ rereadDbm: '-5.00' }).readings[0]!.uncertaintyDb).toBeCloseTo(less, 12);
    expect([u({}).readings[0]!.verdict, u({ rereadDbm: '-5.00' }).readings[0]!.verdict]).toEqual([
      'marginal_pass',
      'pass',
    ]);
  });
  it('a bad test is void with its reason, and says what to do', () => {
    const old = { wavelengthNm: 1310, value: '0.5', referenceAgeHours: 5 };
    expect(one({ link, readings: [old] })).toMatchObject({
      verdict: 'void',
      readings: [{ reason: 'void.reference_old' }],
    });
    const found = one({ link, readings: [{ wavelengthNm: 1310, value: '-0.3' }] }) as never as {
      verdict: string;
      conclusions: string[];
    };
    expect(found.verdict).toBe('void');
    expect(found.conclusions[0]).toContain('the reference was bad');
  });
  it('says why a link has no limit', () => {
    const plan = { fiberClass: 'OS2', fibers: 1, ends: ['panel', 'bare'], segments: [], joints: [] };
    expect(one({ link: { plan } })).toMatchObject({ error: { code: 'loss.bad_link' } });
    expect(
      one({ link: { ...link, fiberClass: 'OM3' }, readings: [{ wavelengthNm: 1310, value: '1' }] }),
    ).toMatchObject({
      error: { code: 'loss.no_coefficient' },
    });
  });
  it.each([
    ['{', 'not JSON'],
    ['{}', 'file'],
    ['[{"name":"a"}]', '0.link'],
    [JSON.stringify([{ name: 'a', referenceMethod: 'four_cord', link }]), '0.referenceMethod'],
    [JSON.stringify([{ name: 'a', referenceMethod: 'one_cord', link: { ...link, lengthFt: 3 } }]), '0.link'],
    [JSON.stringify([{ name: 'a', referenceMethod: 'one_cord', link, colour: 1 }]), 'colour'],
    ...[
      ['value', { value: '0.3 dB' }],
      ['referenceDbm', { value: '-6', unit: 'dBm', referenceDbm: '' }],
      ['referenceDbm', { value: '-6', unit: 'dBm', referenceDbm: '500' }],
      ['rereadDbm', { value: '-6', unit: 'dBm', rereadDbm: '-5.9o' }],
    ].map(([field, reading]) => [
      JSON.stringify([
        {
          name: 'a',
          referenceMethod: 'one_cord',
          link,
          readings: [{ wavelengthNm: 1310, ...(reading as object) }],
        },
      ]),
      `0.readings.0.${field as string}`,
    ]),
  ])('%s is refused whole, with the place', (text, place) => {
    expect(casesFrom(text)).toContain(place);
  });
});
