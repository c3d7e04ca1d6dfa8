import type { LossSample, LossSeries, SkillInTime } from '@clear-mark/contract';
import { describe, expect, it } from 'vitest';
import { sayTimesIn } from '../../shared/time-words.ts';
import type { ChartLook } from '../../charts/chart-look.ts';
import { daysOption, learningOption, versionLines } from './learning/learning-options.ts';
import { histogramOption, lossTimeOption } from './loss/loss-options.ts';
import { competenceOption } from './needs/competence-option.ts';

const look: ChartLook = {
  token: (name) => name,
  soft: { color: 'soft', fontFamily: 'f', fontSize: 13 },
  tooltip: { trigger: 'item', textStyle: { fontFamily: 'f' }, formatter: () => '' },
};
const rate = (k: number, n: number) => ({ kind: 'rate', k, n, share: k / n, low: 0.1, high: 0.9 }) as const;

describe('the histogram of losses', () => {
  const sample = {
    limitDb: 0.75,
    expectedDb: 0.3,
    histogram: { from: 0, width: 0.25, counts: [2, 1, 0, 1] },
  } as unknown as LossSample;
  const bars = [
    { from: 0, to: 0.25, count: 2 },
    { from: 0.75, to: 1, count: 1 },
  ];
  const option = histogramOption(sample, bars as never, look);
  it('colours what is at the limit and over it as failed', () =>
    expect(option.series[0]!.data.map((d) => d.itemStyle.color)).toEqual(['--glass', '--fail']));
  it('shows the limit and what good work loses, and reaches beyond the limit', () => {
    expect(option.series[0]!.markLine.data.map((l) => l.label.formatter)).toEqual([
      'limit 0.75',
      'expected 0.30',
    ]);
    expect(option.xAxis.max).toBeGreaterThan(0.75);
    expect(option.xAxis.min).toBe(0);
  });
});

it('days have a line where a later version of a method begins', () => {
  const days = ['2026-03-02', '2026-03-04', '2026-03-09'].map((day) => ({ day, rate: rate(3, 4), void: 0 }));
  const line = (day: string) => ({ day, title: 'LC', version: 2 });
  const at = (versions: ReturnType<typeof line>[]): number[] =>
    versionLines({ days, versions }, look).data.map((d) => d.xAxis);
  // Between the last day of the version before and the first of this one.
  expect(at([line('2026-03-04')])).toEqual([0.5]);
  expect(at([line('2026-03-05')])).toEqual([1.5]);
  expect(at([line('2026-03-10')])).toEqual([]);
  expect(versionLines({ days, versions: [line('2026-03-04')] }, look).data[0]!.label.formatter).toBe(
    'LC, version 2',
  );
});

describe('losses one after the other', () => {
  const point = (db: number, more: object = {}) => ({
    db,
    traineeName: 'Ada',
    startedAt: '2026-03-02T10:00:00.000Z',
    out: false,
    rules: [],
    changed: [],
    ...more,
  });
  const series = {
    measure: 'loss',
    limitDb: 0.75,
    chart: { centre: 0.3, low: 0.1, high: 0.5 },
    points: [point(0.3), point(0.9, { out: true }), point(0.4, { rules: ['x'] })],
  } as unknown as LossSeries;
  it('says days in the zone of the class', () => {
    const late = {
      ...series,
      points: [point(0.3, { startedAt: '2026-03-02T23:30:00.000Z' })],
    } as unknown as LossSeries;
    const days = (zone: string): readonly string[] => {
      sayTimesIn(zone);
      return lossTimeOption(late, look).xAxis.data;
    };
    expect([days('Asia/Tokyo'), days('America/Lima')]).toEqual([['3.3.'], ['2.3.']]);
    sayTimesIn(undefined);
  });
  it('tells what is outside and what ends a run apart by shape', () => {
    const [line] = lossTimeOption(series, look).series;
    expect(line!.data.map((d) => d.symbol)).toEqual(['circle', 'diamond', 'rect']);
  });
  it('has the limit, the mean and both ends of what is expected; without a chart the limit alone', () => {
    const names = (s: LossSeries): string[] =>
      lossTimeOption(s, look).series[0]!.markLine.data.map(
        (l) => (l as { label: { formatter: string } }).label.formatter,
      );
    expect(names(series)).toEqual(['limit 0.75', 'mean 0.30', 'expected to 0.50', 'from 0.10']);
    expect(names({ ...series, chart: null } as LossSeries)).toEqual(['limit 0.75']);
    expect(names({ ...series, chart: null, limitDb: null } as LossSeries)).toEqual([]);
  });
});

describe('rates in time', () => {
  const skill = {
    days: [
      { day: '2026-03-02', rate: rate(1, 2) },
      { day: '2026-03-03', rate: rate(9, 10) },
    ],
    learning: [
      { attempt: 1, level: 0.5, rate: rate(1, 2) },
      { attempt: 2, level: 0.2, rate: rate(9, 10) },
    ],
    versions: [],
  } as unknown as SkillInTime;
  it('days stand as day and month; what rests on few is hollow', () => {
    const rates = skill.days.map((d) => ({ at: d.day, rate: d.rate }));
    const option = daysOption(skill, rates, look);
    expect(option.xAxis.data).toEqual(['2.3.', '3.3.']);
    const points = option.series[1] as { data: { itemStyle: { borderWidth?: number }; name: string }[] };
    expect(points.data.map((d) => d.itemStyle.borderWidth ?? 0)).toEqual([2, 0]);
    expect(points.data[0]!.name).toContain('1 of 2 passed');
  });
  it('a level that rests on a handful of trainees is drawn as one that is not known', () => {
    const rates = skill.learning.map((p) => ({ at: `attempt ${p.attempt}`, rate: p.rate }));
    const [few] = learningOption(skill, rates, look).series as {
      lineStyle: { type?: string };
      data: number[];
    }[];
    expect([few!.lineStyle.type, few!.data]).toEqual(['dashed', [0.5, 0.8]]);
    const many = {
      ...skill,
      learning: [{ attempt: 1, level: 0.5, rate: rate(9, 12) }],
    } as unknown as SkillInTime;
    const [known] = learningOption(many, [], look).series as { lineStyle: { type?: string } }[];
    expect(known!.lineStyle.type).toBeUndefined();
  });
});

describe('the sequential chart of one trainee', () => {
  const point = (at: number, form: 'learning' | 'deterioration', sum: number, more: object = {}) =>
    ({ at, form, sum, failed: false, signal: false, ...more }) as never;
  const shown = (points: never[]) =>
    competenceOption(
      {
        points,
        limits: { learning: 3, deterioration: 4 },
        dayAt: (i) => `day ${i}`,
        wordsAt: () => 'Pass',
      },
      look,
    );
  it('each form has its points and its limit where it holds', () => {
    const option = shown([
      point(0, 'learning', 1),
      point(1, 'learning', 3, { signal: true }),
      point(2, 'deterioration', 1, { failed: true }),
    ]);
    const [learning, watching] = option.series as {
      data: ({ symbol: string; name: string } | null)[];
      markLine?: { data: unknown[] };
    }[];
    expect(learning!.data.map((d) => d?.name ?? null)).toEqual([
      'day 0, Pass',
      'day 1, Pass, at the limit',
      null,
    ]);
    expect(watching!.data.map((d) => d?.symbol ?? null)).toEqual([null, null, 'diamond']);
    expect(learning!.markLine!.data).toHaveLength(2);
    expect(option.yAxis.max).toBeGreaterThan(4);
  });
  it('before competence there is no limit of what gets worse', () => {
    const [learning] = shown([point(0, 'learning', 1)]).series as { markLine?: { data: unknown[] } }[];
    expect(learning!.markLine!.data).toHaveLength(1);
  });
});
