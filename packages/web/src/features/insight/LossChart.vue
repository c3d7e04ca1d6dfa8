<script setup lang="ts">
import type { LossSample } from '@clear-mark/contract';
import { BarChart } from 'echarts/charts';
import { GridComponent, MarkLineComponent, TooltipComponent } from 'echarts/components';
import { use } from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import { computed } from 'vue';
import VChart from 'vue-echarts';
import { useChartLook } from './chart-look.ts';
import { type Bar, barsOf } from './insight.model.ts';

use([BarChart, GridComponent, MarkLineComponent, TooltipComponent, SVGRenderer]);

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

function click(event: unknown): void {
  const bar = bars.value[(event as { dataIndex: number }).dataIndex];
  if (bar) emit('open', bar);
}
</script>

<template>
  <VChart
    class="chart"
    :option="option"
    autoresize
    role="img"
    :aria-label="`Histogram of ${sample.summary.n} losses at ${sample.wavelengthNm} nm, limit ${sample.limitDb.toFixed(2)} dB`"
    @click="click"
  />
</template>

<style scoped>
.chart {
  height: 220px;
  width: 100%;
}
</style>
