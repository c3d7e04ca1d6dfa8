import { DEFAULT_LOSS_SETTINGS, lossTerms, type TakenLossTable } from '@clear-mark/core';
import { describe, expect, it } from 'vitest';
import { lossRulesFor } from './loss-rules.ts';

const source = { kind: 'house', fromMemory: false, words: 'our course book' } as const;
const db = (value: number) => ({ db: value, source });
const table: TakenLossTable = {
  title: 'Campus links',
  version: 3,
  fiber: 'single_mode',
  fiberDbPerKm: { 1310: db(0.4), 1550: db(0.3) },
  connectionDb: db(0.5),
  spliceDb: db(0.1),
};
const settings = { ...DEFAULT_LOSS_SETTINGS, table };
const link = {
  fiberClass: 'OS2',
  lengthM: 2000,
  matedPairs: 2,
  splices: 3,
  referenceMethod: 'one_cord',
} as const;

describe('a loss table of the school', () => {
  it('stands in place of the shipped allowances of its fiber', () => {
    // 2 km at 0.4 dB/km, 2 pairs at 0.5 dB, 3 splices at 0.1 dB: 0.8 + 1.0 + 0.3 dB, by hand.
    const terms = lossTerms(link, lossRulesFor('OS2', 'one_cord', settings), 1310);
    expect(terms.limitDb).toBeCloseTo(2.1, 12);
    expect(lossTerms(link, lossRulesFor('OS2', 'one_cord', settings), 1550).limitDb).toBeCloseTo(1.9, 12);
    // 2 km at 1.0 dB/km, 2 pairs at 0.75 dB, 3 splices at 0.3 dB: the shipped table.
    expect(lossTerms(link, lossRulesFor('OS2', 'one_cord'), 1310).limitDb).toBeCloseTo(4.4, 12);
  });
  it('leaves what good work loses, the least of the fiber and the budget', () => {
    const own = lossRulesFor('OS2', 'one_cord', settings);
    const shipped = lossRulesFor('OS2', 'one_cord');
    const { fiberDbPerKm: _f, connectionDb: _c, spliceDb: _s, ...left } = own;
    expect(shipped).toMatchObject(left);
  });
  it('serves no other fiber', () => {
    expect(lossRulesFor('OM3', 'one_cord', settings)).toEqual(lossRulesFor('OM3', 'one_cord'));
  });
});
