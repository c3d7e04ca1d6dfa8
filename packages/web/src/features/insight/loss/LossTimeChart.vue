<script setup lang="ts">
import type { LossSeries } from '@clear-mark/contract';
import { computed } from 'vue';
import { useChartLook } from '../../../charts/chart-look.ts';
import ChartView from '../../../charts/ChartView.vue';
import { changeMarks, lookOf, type SeriesPoint } from './series.model.ts';

const props = defineProps<{ series: LossSeries; name: string }>();
const emit = defineEmits<{ open: [point: SeriesPoint] }>();
const theme = useChartLook();
const day = (iso: string): string => {
  const at = new Date(iso);
  return `${at.getDate()}.${at.getMonth() + 1}.`;
};

const option = computed(() => {
  const { token, soft, tooltip } = theme.value;
  const { points, chart, limitDb } = props.series;
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
          ...(chart.low > 0 || props.series.measure === 'distance'
            ? [level(chart.low, `from ${chart.low.toFixed(2)}`, 'dashed', token('--ink-soft'))]
            : []),
        ]
      : []),
  ];
  const look = {
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
      name: props.series.measure === 'loss' ? 'loss, dB' : 'limit less loss, dB',
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
          ...look[lookOf(p, props.series)],
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
});

const table = computed(() => ({
  head: ['when', 'who', 'dB', 'what'],
  rows: props.series.points.map((p) => [p.startedAt, p.traineeName, p.db, lookOf(p, props.series)]),
}));
</script>

<template>
  <ChartView
    :option="option"
    :height="260"
    own-table
    :table="table"
    :title="`${name} in order of time`"
    :label="`${name} in order of time, ${series.points.length} readings`"
    @open="series.points[$event.dataIndex] && emit('open', series.points[$event.dataIndex]!)"
  />
</template>
