<script setup lang="ts">
import type { LossSeries } from '@clear-mark/contract';
import { computed } from 'vue';
import { useChartLook } from '../../../charts/chart-look.ts';
import ChartView from '../../../charts/ChartView.vue';
import { lossTimeOption } from './loss-options.ts';
import { lookOf, type SeriesPoint } from './series.model.ts';

const props = defineProps<{ series: LossSeries; name: string }>();
const emit = defineEmits<{ open: [point: SeriesPoint] }>();
const theme = useChartLook();
const option = computed(() => lossTimeOption(props.series, theme.value));

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
