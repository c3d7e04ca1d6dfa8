<script setup lang="ts">
import type { LossSample } from '@clear-mark/contract';
import { computed } from 'vue';
import { useChartLook } from '../../../charts/chart-look.ts';
import ChartView from '../../../charts/ChartView.vue';
import { type Bar, barsOf } from '../insight.model.ts';

const props = defineProps<{ sample: LossSample }>();
const emit = defineEmits<{ open: [bar: Bar] }>();
const look = useChartLook();
const bars = computed(() => barsOf(props.sample));

const option = computed(() => {
  const { token, soft, tooltip } = look.value;
  const { limitDb, expectedDb, histogram } = props.sample;
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
        data: bars.value.map((bar) => ({
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
            line(expectedDb, `good work ${expectedDb.toFixed(2)}`, 'dashed'),
          ],
        },
      },
    ],
  };
});

const table = computed(() => ({
  head: ['from dB', 'to under dB', 'readings'],
  rows: bars.value.map((b) => [b.from, b.to, b.count]),
}));
</script>

<template>
  <ChartView
    :option="option"
    :height="220"
    own-table
    :table="table"
    :title="`Losses at ${sample.wavelengthNm} nm`"
    :label="`Histogram of ${sample.summary.n} losses at ${sample.wavelengthNm} nm, limit ${sample.limitDb.toFixed(2)} dB`"
    @open="bars[$event.dataIndex] && emit('open', bars[$event.dataIndex]!)"
  />
</template>
