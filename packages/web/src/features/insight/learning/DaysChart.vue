<script setup lang="ts">
import type { SkillInTime } from '@clear-mark/contract';
import { skillWords } from '@clear-mark/words';
import { computed } from 'vue';
import { useChartLook } from '../../../charts/chart-look.ts';
import ChartView from '../../../charts/ChartView.vue';
import { rateTable } from '../rate-series.ts';
import { daysOption } from './learning-options.ts';

const props = defineProps<{ skill: SkillInTime }>();
const emit = defineEmits<{ open: [day: string] }>();
const look = useChartLook();
const rates = computed(() => props.skill.days.map((d) => ({ at: d.day, rate: d.rate })));
const title = computed(() => `${skillWords(props.skill.skill)}: passed by day`);
const drawn = computed(() => props.skill.days.filter((d) => d.rate.kind === 'rate'));

const option = computed(() => daysOption(props.skill, rates.value, look.value));
</script>

<template>
  <ChartView
    :option="option"
    :title="title"
    :label="`${title}, ${skill.days.length} days`"
    :table="rateTable(rates, 'day')"
    @open="drawn[$event.dataIndex] && emit('open', drawn[$event.dataIndex]!.day)"
  />
</template>
