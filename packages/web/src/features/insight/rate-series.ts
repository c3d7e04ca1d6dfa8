import type { StandingCell } from '@clear-mark/contract';
import { type ChartLook, placesAxis } from '../../charts/chart-look.ts';
import { FEW } from './learning/skills.model.ts';

type RateValue = StandingCell['rate'];
export interface RateAt {
  readonly at: string;
  readonly rate: RateValue;
}

/** Rates with their intervals as a series of points and bars: hollow where they rest on few. */
export function rateSeries(rates: readonly RateAt[], { token }: ChartLook) {
  const shown = rates.flatMap(({ at, rate }, i) => (rate.kind === 'rate' ? [{ at, rate, i }] : []));
  return [
    {
      type: 'custom',
      silent: true,
      data: shown.map(({ i, rate }) => [i, rate.low, rate.high]),
      encode: { x: 0, y: [1, 2] },
      renderItem: (_: unknown, api: { value: (i: number) => number; coord: (p: number[]) => number[] }) => {
        const [x, low] = api.coord([api.value(0), api.value(1)]) as [number, number];
        const [, high] = api.coord([api.value(0), api.value(2)]) as [number, number];
        return {
          type: 'line',
          shape: { x1: x, y1: low, x2: x, y2: high },
          style: { stroke: token('--hair-strong'), lineWidth: 6 },
        };
      },
    },
    {
      type: 'scatter',
      data: shown.map(({ at, rate, i }) => ({
        value: [i, rate.share],
        name: `${at}: ${rate.k} of ${rate.n} passed (${Math.round(100 * rate.low)} to ${Math.round(100 * rate.high)} %)`,
        symbolSize: 11,
        itemStyle:
          rate.n < FEW
            ? { color: token('--sheet'), borderColor: token('--glass'), borderWidth: 2 }
            : { color: token('--glass') },
      })),
    },
  ];
}

/** Axes for rates over a list of places. */
export function rateAxes(labels: readonly string[], name: string, look: ChartLook) {
  const { token, soft } = look;
  return {
    grid: { left: 54, right: 16, top: 16, bottom: 44 },
    xAxis: placesAxis(labels, name, look),
    yAxis: {
      type: 'value',
      min: 0,
      max: 1,
      axisLabel: { ...soft, formatter: (v: number) => `${Math.round(100 * v)} %` },
      splitLine: { lineStyle: { color: token('--hair') } },
    },
  };
}

export const rateTable = (rates: readonly RateAt[], head: string) => ({
  head: [head, 'passed', 'of', 'share', 'from', 'to'],
  rows: rates.map(({ at, rate }) =>
    rate.kind === 'rate'
      ? [at, rate.k, rate.n, round(rate.share), round(rate.low), round(rate.high)]
      : [at, 0, 0, null, null, null],
  ),
});
const round = (x: number): number => Math.round(x * 1000) / 1000;
