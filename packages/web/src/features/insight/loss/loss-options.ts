import type { LossSample, LossSeries } from '@clear-mark/contract';
import { dayIn } from '@clear-mark/core';
import type { ChartLook } from '../../../charts/chart-look.ts';
import type { Bar } from '../insight.model.ts';
import { zoneOfTimes } from '../../../shared/time-words.ts';
import { changeMarks, lookOf } from './series.model.ts';

/** How many readings lie in which part of the losses, with the limit and what good work loses. */
export function histogramOption(sample: LossSample, bars: readonly Bar[], look: ChartLook) {
  const { token, soft, tooltip } = look;
  const { limitDb, expectedDb, histogram } = sample;
  const line = (xAxis: number, name: string, type: 'solid' | 'dashed') => ({
    xAxis,
    lineStyle: { color: token('--ink'), width: 2, type },
    label: { ...soft, formatter: name, color: token('--ink') },
  });
  return {
    animation: false,
    grid: { left: 40, right: 16, top: 26, bottom: 40 },
    tooltip,
    xAxis: {
      type: 'value',
      min: Math.min(0, histogram.from),
      max:
        Math.ceil(Math.max(limitDb * 1.25, histogram.from + histogram.width * histogram.counts.length) * 5) /
        5,
      name: 'loss, dB',
      nameLocation: 'middle',
      nameGap: 24,
      nameTextStyle: soft,
      axisLabel: { ...soft, formatter: (x: number) => x.toFixed(1) },
      splitLine: { show: false },
      axisLine: { lineStyle: { color: token('--hair-strong') } },
    },
    yAxis: {
      type: 'value',
      minInterval: 1,
      axisLabel: soft,
      splitLine: { lineStyle: { color: token('--hair') } },
    },
    series: [
      {
        type: 'bar',
        barWidth: '99%',
        barMinWidth: 6,
        barMaxWidth: 24,
        data: bars.map((bar) => ({
          value: [(bar.from + bar.to) / 2, bar.count],
          name: `${bar.from.toFixed(2)} to ${bar.to.toFixed(2)} dB`,
          itemStyle: {
            color: bar.from >= limitDb - 1e-9 ? token('--fail') : token('--glass'),
          },
        })),
        markLine: {
          symbol: 'none',
          silent: true,
          data: [
            line(limitDb, `limit ${limitDb.toFixed(2)}`, 'solid'),
            line(expectedDb, `expected ${expectedDb.toFixed(2)}`, 'dashed'),
          ],
        },
      },
    ],
  };
}

/** Day and month in the zone of the class: 2.3. */
function day(iso: string): string {
  const zone = zoneOfTimes() ?? Intl.DateTimeFormat().resolvedOptions().timeZone;
  const at = dayIn(zone, iso);
  return `${Number(at.slice(8))}.${Number(at.slice(5, 7))}.`;
}

/** Losses one after the other, with the limit, what the work leads to expect, and what was changed between. */
export function lossTimeOption(shown: LossSeries, look: ChartLook) {
  const { token, soft, tooltip } = look;
  const { points, chart, limitDb } = shown;
  // The limit's words stand at the end, those of the chart at the beginning, so that they never lie on each other.
  const level = (yAxis: number, name: string, type: 'solid' | 'dashed' | 'dotted', color: string) => ({
    yAxis,
    lineStyle: { color, width: type === 'dotted' ? 1 : 2, type },
    label: {
      ...soft,
      formatter: name,
      position: type === 'solid' ? 'insideEndTop' : 'insideStartTop',
      color,
    },
  });
  const ink = token('--ink');
  const levels = [
    ...(limitDb === null ? [] : [level(limitDb, `limit ${limitDb.toFixed(2)}`, 'solid', ink)]),
    ...(chart
      ? [
          level(chart.centre, `mean ${chart.centre.toFixed(2)}`, 'dotted', token('--ink-soft')),
          level(chart.high, `expected to ${chart.high.toFixed(2)}`, 'dashed', token('--ink-soft')),
          ...(chart.low > 0 || shown.measure === 'distance'
            ? [level(chart.low, `from ${chart.low.toFixed(2)}`, 'dashed', token('--ink-soft'))]
            : []),
        ]
      : []),
  ];
  const looks = {
    out: { symbol: 'diamond', symbolSize: 15, itemStyle: { color: token('--fail') } },
    run: {
      symbol: 'rect',
      symbolSize: 10,
      itemStyle: { color: token('--paper'), borderColor: ink, borderWidth: 2 },
    },
    plain: { symbol: 'circle', symbolSize: 6, itemStyle: { color: token('--glass') } },
  };
  return {
    animation: false,
    grid: { left: 46, right: 16, top: 30, bottom: 30 },
    tooltip,
    xAxis: {
      type: 'category',
      data: points.map((p) => day(p.startedAt)),
      axisLabel: { ...soft, hideOverlap: true },
      axisTick: { show: false },
      axisLine: { lineStyle: { color: token('--hair-strong') } },
    },
    yAxis: {
      type: 'value',
      name: shown.measure === 'loss' ? 'loss, dB' : 'limit less loss, dB',
      nameTextStyle: { ...soft, align: 'left' },
      axisLabel: { ...soft, formatter: (v: number) => v.toFixed(1) },
      splitLine: { lineStyle: { color: token('--hair') } },
    },
    series: [
      {
        type: 'line',
        showAllSymbol: true,
        lineStyle: { color: token('--hair-strong'), width: 1 },
        data: points.map((p) => ({
          value: p.db,
          name: `${p.traineeName}, ${p.db.toFixed(2)} dB`,
          ...looks[lookOf(p, shown)],
        })),
        markLine: {
          symbol: 'none',
          silent: true,
          data: [
            ...levels,
            ...changeMarks(points).map((m) => ({
              xAxis: m.at,
              lineStyle: { color: ink, width: 1, type: 'dotted' },
              label: { ...soft, formatter: m.label, color: ink },
            })),
          ],
        },
      },
    ],
  };
}
