import { describe, expect, it } from 'vitest';
import { partKey } from '../sheet/index.ts';
import { rowSpread } from './row-spread.ts';

const row = (losses: readonly number[], wavelengthNm = 1310) =>
  losses.map((lossDb, i) => ({ part: partKey({ fiber: i + 1, wavelengthNm, direction: null }), lossDb }));

describe('the fibers of a row beside each other', () => {
  it('most less least, and the fiber that stands apart', () => {
    const [spread] = rowSpread(
      row([0.4, 0.42, 0.38, 0.41, 0.39, 0.4, 1.2, 0.4, 0.43, 0.37, 0.4, 0.41]),
      0.15,
    );
    expect(spread).toMatchObject({
      wavelengthNm: 1310,
      fibers: 12,
      least: { fiber: 10 },
      most: { fiber: 7 },
    });
    expect(spread!.spreadDb).toBeCloseTo(0.83, 12);
    expect(spread!.medianDb).toBeCloseTo(0.4, 12);
    expect(spread!.outliers.map((o) => o.fiber)).toEqual([7]);
  });

  it('no fiber stands apart by less than the uncertainty of its reading', () => {
    const losses = [0.4, 0.4, 0.4, 0.4, 0.4, 0.52];
    expect(rowSpread(row(losses), 0.15)[0]!.outliers).toEqual([]);
    expect(rowSpread(row(losses), 0.1)[0]!.outliers.map((o) => o.fiber)).toEqual([6]);
  });

  it('a wide row has no outlier: all of it is uneven', () =>
    expect(rowSpread(row([0.2, 0.4, 0.6, 0.8, 1, 1.2]), 0.1)[0]!.outliers).toEqual([]));

  it('each wavelength by itself', () => {
    const both = rowSpread([...row([0.3, 0.5]), ...row([0.3, 0.9], 1550)], 0.1);
    expect(both.map((s) => [s.wavelengthNm, Number(s.spreadDb.toFixed(6))])).toEqual([
      [1310, 0.2],
      [1550, 0.6],
    ]);
  });

  it('says nothing of one fiber, or of readings without a fiber', () => {
    expect(rowSpread(row([0.4]), 0.1)).toEqual([]);
    expect(rowSpread([{ part: '1310', lossDb: 0.4 }], 0.1)).toEqual([]);
  });

  it('two groups of equal fibers have a spread of 0 and no outlier', () =>
    expect(rowSpread(row([0.4, 0.4, 0.4, 0.4]), 0)[0]).toMatchObject({ spreadDb: 0, outliers: [] }));
});
