import { describe, expect, it } from 'vitest';
import type { LinkUnderTest, LossRules, Source } from '../sheet/index.ts';
import { countedConnections } from './counted-connections.ts';
import { lossTerms } from './loss-terms.ts';
import { dbmFromMilliwatts } from './power.ts';
import { expandedUncertaintyDb } from './uncertainty.ts';

const source: Source = { kind: 'house', fromMemory: false, words: 'for the test' };
const rules: LossRules = {
  connectionDb: { db: 0.75, source },
  spliceDb: { db: 0.3, source },
  fiberDbPerKm: { 850: { db: 3.0, source }, 1310: { db: 1.0, source } },
  expectedConnectionDb: { db: 0.25, source },
  expectedSpliceDb: { db: 0.05, source },
  expectedFiberDbPerKm: { 850: 2.5, 1310: 0.35 },
  floorDbPerKm: { 850: 2.2, 1310: 0.3 },
  negativeToleranceDb: { db: -0.1, source },
  driftLimitDb: { db: 0.2, source },
  referenceAgeLimitHours: 4,
  bendStepDb: { db: 0.5, source },
  uncertainty: [],
};
const link = (more: Partial<LinkUnderTest>): LinkUnderTest => ({
  fiberClass: 'OS2',
  lengthM: 2,
  matedPairs: 2,
  splices: 0,
  referenceMethod: 'one_cord',
  ...more,
});

describe('counted connections', () => {
  // Common practice: one cord contains both end connections, two cords one net, three cords none.
  it.each([
    ['one_cord', 2, 2],
    ['two_cord', 2, 1],
    ['three_cord', 2, 0],
    ['three_cord', 1, 0],
    ['single_cord', 2, 1],
    ['single_cord', 1, 1],
  ] as const)('%s with %i mated pairs counts %i', (referenceMethod, matedPairs, counted) => {
    expect(countedConnections({ referenceMethod, matedPairs })).toBe(counted);
  });
});

describe('limit of a link', () => {
  // Common practice: a short cord straight into the meter has a limit of about 0.8 by mated pairs.
  it('a 2 m cord from the launch cord into the meter', () => {
    const terms = lossTerms(link({ referenceMethod: 'single_cord' }), rules, 1310);
    expect(terms.limitDb).toBeCloseTo(0.752, 12);
    expect(Math.round(terms.limitDb * 10) / 10).toBe(0.8);
    expect(terms.expectedDb).toBeCloseTo(0.25 + 0.0007, 12);
  });

  // Common practice: 0.1 dB per 33 m at 3.0 dB/km.
  it('33 m of multimode fiber', () => {
    expect(lossTerms(link({ lengthM: 33, matedPairs: 0 }), rules, 850).fiberDb).toBeCloseTo(0.099, 12);
  });

  it('splices and connections add up', () => {
    expect(lossTerms(link({ lengthM: 1000, splices: 2 }), rules, 1310).limitDb).toBeCloseTo(
      1 + 1.5 + 0.6,
      12,
    );
  });

  it('refuses a wavelength without a coefficient and a negative part', () => {
    expect(() => lossTerms(link({}), rules, 1625)).toThrow('loss.no_coefficient');
    expect(() => lossTerms(link({ lengthM: -1 }), rules, 1310)).toThrow('loss.bad_link');
  });
});

describe('power and uncertainty', () => {
  it('converts power', () => {
    expect(dbmFromMilliwatts(1)).toBe(0);
    expect(dbmFromMilliwatts(0.001)).toBeCloseTo(-30, 12);
    expect(() => dbmFromMilliwatts(0)).toThrow('loss.no_power');
  });

  // JCGM 100:2008 4.3.7 (rectangular, a / sqrt 3) and 4.3.9 (triangular, a / sqrt 6).
  it('expands the root sum of squares', () => {
    expect(expandedUncertaintyDb([{ name: 'a', shape: 'rectangular', db: 0.1 }])).toBeCloseTo(
      (2 * 0.1) / Math.sqrt(3),
      14,
    );
    const parts = [
      { name: 'a', shape: 'triangular', db: 0.06 },
      { name: 'b', shape: 'standard', db: 0.03 },
    ] as const;
    expect(expandedUncertaintyDb(parts)).toBeCloseTo(2 * Math.sqrt(0.0036 / 6 + 0.0009), 14);
    expect(expandedUncertaintyDb([])).toBe(0);
    expect(() => expandedUncertaintyDb([{ name: 'a', shape: 'standard', db: -1 }])).toThrow();
  });
});
