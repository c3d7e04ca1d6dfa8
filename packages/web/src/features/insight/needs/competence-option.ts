import type { ChartPoint } from '@clear-mark/core';
import { type ChartLook, placesAxis } from '../../../charts/chart-look.ts';

export interface CompetenceShown {
  readonly points: readonly ChartPoint[];
  readonly limits: { readonly learning: number; readonly deterioration: number };
  readonly dayAt: (outcome: number) => string;
  readonly wordsAt: (outcome: number) => string;
}

/** The chart of learning up to competence, then the one that watches for what gets worse; failures are diamonds. */
export function competenceOption({ points, limits, dayAt, wordsAt }: CompetenceShown, look: ChartLook) {
  const { token, soft, tooltip } = look;
  const all = points;
  const from = all.findIndex((p) => p.form === 'deterioration');
  const turn = from < 0 ? all.length : from;
  const top = Math.max(limits.deterioration, turn > 0 ? limits.learning : 0, ...all.map((p) => p.sum));
  const limit = (x0: number, x1: number, y: number, name: string) => [
    {
      coord: [x0, y],
      lineStyle: { color: token('--ink'), width: 2, type: 'solid' },
      label: { ...soft, formatter: name, color: token('--ink'), position: 'insideStartTop' },
    },
    { coord: [Math.max(x0 + 0.01, x1), y] },
  ];
  const series = (form: 'learning' | 'deterioration') => ({
    type: 'line',
    showAllSymbol: true,
    lineStyle: { color: token('--glass'), width: 2, type: form === 'learning' ? 'dashed' : 'solid' },
    data: all.map((p) =>
      p.form === form
        ? {
            value: p.sum,
            name: `${dayAt(p.at)}, ${wordsAt(p.at)}${p.signal ? ', at the limit' : ''}`,
            symbol: p.failed ? 'diamond' : 'circle',
            symbolSize: p.failed ? 14 : 9,
            itemStyle: { color: p.failed ? token('--fail') : token('--pass') },
          }
        : null,
    ),
  });
  return {
    animation: false,
    tooltip,
    grid: { left: 44, right: 16, top: 22, bottom: 44 },
    xAxis: placesAxis(
      all.map((p) => String(p.at + 1)),
      'outcome',
      look,
    ),
    yAxis: {
      type: 'value',
      min: 0,
      max: Math.ceil(top * 1.15 * 2) / 2,
      axisLabel: { ...soft, formatter: (v: number) => v.toFixed(1) },
      splitLine: { lineStyle: { color: token('--hair') } },
    },
    series: [
      {
        ...series('learning'),
        markLine: {
          symbol: 'none',
          silent: true,
          data: [
            ...(turn > 0 ? [limit(0, turn - 1, limits.learning, 'shows competence')] : []),
            ...(turn < all.length
              ? [limit(turn, all.length - 1, limits.deterioration, 'getting worse')]
              : []),
          ],
        },
      },
      series('deterioration'),
    ],
  };
}
