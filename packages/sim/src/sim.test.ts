import { describe, expect, it } from 'vitest';
import { type Hand, handBetween, makeConnector, normal, rngFrom, uuidFrom } from './index.ts';

const steady: Hand = {
  stripBiasMm: 0,
  stripSpreadMm: 0.5,
  cleaveLengthBiasMm: 0,
  cleaveLengthSpreadMm: 0.1,
  cleaveAngleDeg: 0.4,
  slip: 0,
  forgetsBoot: 0,
  leavesDirt: 0,
  testSlip: 0,
};
const many = (hand: Hand, wear: number) => {
  const rng = rngFrom(11);
  return Array.from({ length: 2000 }, () => makeConnector(hand, { cleaverWear: wear }, rng));
};
const mean = (values: number[]): number => values.reduce((a, b) => a + b, 0) / values.length;

describe('seeded numbers', () => {
  it('are the same for the same seed and differ for another', () => {
    const take = (seed: number): number[] => Array.from({ length: 5 }, rngFrom(seed));
    expect(take(7)).toEqual(take(7));
    expect(take(7)).not.toEqual(take(8));
    expect(take(7).every((x) => x >= 0 && x < 1)).toBe(true);
  });

  it('normal deviates have their mean and spread', () => {
    const rng = rngFrom(3);
    const values = Array.from({ length: 20_000 }, () => normal(rng, 5, 2));
    const m = mean(values);
    const sd = Math.sqrt(mean(values.map((x) => (x - m) ** 2)));
    // Five standard errors: 2 / sqrt(20000) and 2 / sqrt(40000).
    expect(Math.abs(m - 5)).toBeLessThan((5 * 2) / Math.sqrt(20_000));
    expect(Math.abs(sd - 2)).toBeLessThan((5 * 2) / Math.sqrt(40_000));
  });

  it('ids are well-formed', () => {
    expect(uuidFrom(rngFrom(1))).toMatch(
      /^[0-9a-f]{8}-[0-9a-f]{4}-4[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/,
    );
  });
});

describe('the simulated workpiece', () => {
  it('a steady hand cleaves at its own angle; a worn blade widens it in proportion', () => {
    const median = (wear: number): number =>
      many(steady, wear)
        .map((p) => p.cleaveAngleDeg)
        .sort((a, b) => a - b)[1000]!;
    expect(median(1)).toBeCloseTo(0.4, 1);
    expect(median(2) / median(1)).toBeCloseTo(2, 6);
  });

  it('dirt and a fiber that is not home cost loss', () => {
    const clean = mean(many(steady, 1).map((p) => p.lossDb[1310]));
    const dirty = mean(many({ ...steady, leavesDirt: 1 }, 1).map((p) => p.lossDb[1310]));
    const loose = many({ ...steady, slip: 1 }, 1);
    expect(dirty - clean).toBeGreaterThan(0.1);
    const lossIf = (home: boolean): number =>
      mean(loose.filter((p) => p.home === home).map((p) => p.lossDb[1310]));
    expect(lossIf(false) - lossIf(true)).toBeGreaterThan(0.3);
  });

  it('practice lies between raw and good', () => {
    const raw = { ...steady, slip: 0.4 };
    expect(handBetween(raw, steady, 0)).toEqual(raw);
    expect(handBetween(raw, steady, 1)).toEqual(steady);
    expect(handBetween(raw, steady, 0.5).slip).toBeCloseTo(0.2, 12);
  });
});
