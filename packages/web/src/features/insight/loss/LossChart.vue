<script setup lang="ts">
import type { LossSample } from '@clear-mark/contract';
import { computed } from 'vue';
import { useChartLook } from '../../../charts/chart-look.ts';
import ChartView from '../../../charts/ChartView.vue';
import { type Bar, barsOf } from '../insight.model.ts';
import { histogramOption } from './loss-options.ts';

const props = defineProps<{ sample: LossSample }>();
const emit = defineEmits<{ open: [bar: Bar] }>();
const look = useChartLook();
const bars = computed(() => barsOf(props.sample));

const option = computed(() => histogramOption(props.sample, bars.value, look.value));
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
