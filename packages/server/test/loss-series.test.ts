import { describe, expect, it } from 'vitest';
import { seriesOf } from '../src/results/losses/loss-series.ts';
import type { SeriesRow } from '../src/results/losses/losses.store.ts';

/** A reading of the n-th hour. */
const row = (n: number, lossDb: number, more: Partial<SeriesRow> = {}): SeriesRow => ({
  attemptId: `a${n}`,
  traineeId: 't1',
  traineeName: 'Ines',
  lossDb,
  limitDb: 0.75,
  methodId: 'own/lc',
  title: 'LC',
  version: 1,
  things: null,
  startedAt: new Date(Date.UTC(2026, 2, 2, 8 + n)).toISOString(),
  ...more,
});
/** Losses that hardly vary, by a fixed round of small steps. */
const steady = (n: number): number => 0.3 + 0.01 * ((n * 7) % 5);

describe('a series of losses', () => {
  it('says where a later version of a method begins, and not where an earlier one goes on or another method comes', () => {
    const versions = [1, 1, 2, 1, 2, 3];
    const rows = [
      ...versions.map((version, n) => row(n, steady(n), { version })),
      row(6, 0.3, { methodId: 'own/sc', title: 'SC', version: 4 }),
    ];
    const found = seriesOf(rows).points.map((p) => p.newVersion);
    expect(found).toEqual([
      null,
      null,
      { title: 'LC', version: 2 },
      null,
      null,
      { title: 'LC', version: 3 },
      null,
    ]);
  });
  it('of none, of one, of equal ones: no chart is made up', () => {
    expect(seriesOf([])).toMatchObject({ n: 0, chart: null, bounds: null, points: [] });
    const one = seriesOf([row(0, 0.3)]);
    expect(one).toMatchObject({ n: 1, chart: null, bounds: { normal: null, order: null, orderNeeds: 59 } });
    expect(one.spreadSources).toEqual({
      components: null,
      left: [{ reason: 'too_few', sources: ['trainee'] }],
    });
    const equal = seriesOf([0, 1, 2, 3].map((n) => row(n, 0.3)));
    expect(equal.chart).toMatchObject({ centre: 0.3, low: 0.3, high: 0.3 });
    expect(equal.points.some((p) => p.out || p.rules.length > 0)).toBe(false);
    expect(equal.bounds!.normal).toBeNull();
    expect(equal.spreadSources.left).toEqual([{ reason: 'no_spread', sources: ['trainee'] }]);
  });
  it('losses where the limit is one, distances to it where links differ', () => {
    expect(seriesOf([row(0, 0.3), row(1, 0.4)])).toMatchObject({ measure: 'loss', limitDb: 0.75 });
    const mixed = seriesOf([row(0, 0.3), row(1, 0.4, { limitDb: 1.5 })]);
    expect(mixed).toMatchObject({ measure: 'distance', limitDb: null });
    expect(mixed.points.map((p) => p.db)).toEqual([0.45, 1.1]);
  });
  it('marks what lies outside, and what was changed before a reading', () => {
    const rows = Array.from({ length: 30 }, (_, n) =>
      row(n, n === 21 ? 1.2 : steady(n), {
        things: { film: n < 12 ? 'Film A' : 'Film B', bench: 'Bench 1' },
      }),
    );
    const { points } = seriesOf(rows);
    expect(points.flatMap((p, i) => (p.out ? [i] : []))).toEqual([21]);
    expect(points[21]!.rules).toContain('beyond_3');
    expect(points.flatMap((p, i) => p.changed.map((c) => [i, c.kind, c.label]))).toEqual([
      [12, 'film', 'Film B'],
    ]);
  });
  it('shows the newest, and counts all', () => {
    const found = seriesOf(Array.from({ length: 300 }, (_, n) => row(n, steady(n))));
    expect(found).toMatchObject({ n: 300 });
    expect(found.points).toHaveLength(240);
    expect(found.points[0]!.attemptId).toBe('a60');
    expect(found.bounds!.order).toBeCloseTo(0.34, 12);
  });
  it('two trainees of one name stay two, and a thing that is seldom named is no source', () => {
    const rows = Array.from({ length: 40 }, (_, n) =>
      row(n, steady(n) + (n % 4 === 0 ? 0.3 : 0), {
        traineeId: `t${n % 4}`,
        things: n < 20 ? { cleaver: `Cleaver ${n % 2}` } : null,
      }),
    );
    const { components } = seriesOf(rows).spreadSources;
    expect(components!.sources.map((s) => s.source)).toEqual(['trainee']);
    expect(components!.sources[0]!.levels.map((l) => l.level)).toEqual(['Ines', 'Ines', 'Ines', 'Ines']);
    expect(components!.sources[0]!.share).toBeGreaterThan(0.9);
  });
});
