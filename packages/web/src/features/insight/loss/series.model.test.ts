import { describe, expect, it } from 'vitest';
import { boundWords, changeMarks, lookOf, type SeriesPoint } from './series.model.ts';

const point = (more: Partial<SeriesPoint> = {}): SeriesPoint => ({
  attemptId: 'a',
  traineeName: 'Ines',
  startedAt: '2026-03-01T08:00:00.000Z',
  db: 0.3,
  changed: [],
  newVersion: null,
  out: false,
  rules: [],
  ...more,
});
const film = (label: string) => ({ changed: [{ kind: 'film' as const, label }] });
const bench = { changed: [{ kind: 'bench' as const, label: 'Bench 2' }] };

describe('losses in time', () => {
  it('marks a new film, not the round of the benches', () => {
    const points = Array.from({ length: 24 }, (_, i) =>
      point(i === 10 ? film('Film B') : i % 2 ? bench : {}),
    );
    expect(changeMarks(points)).toEqual([{ at: 10, label: 'Film B' }]);
    expect(changeMarks([])).toEqual([]);
    points[4] = point({ ...points[4], newVersion: { title: 'LC', version: 2 } });
    expect(changeMarks(points)).toEqual([
      { at: 4, label: 'LC, version 2' },
      { at: 10, label: 'Film B' },
    ]);
  });
  it('tells a point outside from the end of a run', () => {
    const loss = { measure: 'loss' as const, chart: { centre: 0.25, low: 0, high: 0.6 } };
    expect(lookOf(point(), loss)).toBe('plain');
    expect(lookOf(point({ rules: ['run_of_8'] }), loss)).toBe('run');
    expect(lookOf(point({ out: true, rules: ['beyond_3'] }), loss)).toBe('out');
    // A run of good work is no event; of distances the small ones are the bad ones.
    expect(lookOf(point({ db: 0.2, rules: ['run_of_8'] }), loss)).toBe('plain');
    const distance = { ...loss, measure: 'distance' as const };
    expect(lookOf(point({ db: 0.2, rules: ['run_of_8'] }), distance)).toBe('run');
    expect(lookOf(point({ out: true }), distance)).toBe('plain');
    expect(lookOf(point({ out: true }), { ...loss, chart: null })).toBe('plain');
  });
  it('says the bound, or what it takes', () => {
    const series = (bounds: object | null, n: number) => ({ n, bounds }) as never;
    expect(boundWords(series(null, 0))).toBe('');
    expect(boundWords(series({ normal: null, order: null, orderNeeds: 59 }, 1))).toContain('two readings');
    expect(boundWords(series({ normal: 0.713, order: null, orderNeeds: 59 }, 40))).toBe(
      'With 95 % confidence 95 % of such work stays under 0.71 dB if it is normally distributed; 19 more readings say it without that.',
    );
    expect(boundWords(series({ normal: 0.713, order: 0.75, orderNeeds: null }, 90))).toContain(
      'under 0.75 dB, whatever its shape (0.71 if',
    );
  });
});
