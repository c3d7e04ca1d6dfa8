<script setup lang="ts">
import type { SkillInTime } from '@clear-mark/contract';
import { skillWords } from '@clear-mark/words';
import { computed } from 'vue';
import { useChartLook } from '../../../charts/chart-look.ts';
import ChartView from '../../../charts/ChartView.vue';
import { rateTable } from '../rate-series.ts';
import { learningOption } from './learning-options.ts';

const props = defineProps<{ skill: SkillInTime }>();
const emit = defineEmits<{ open: [attempt: number] }>();
const look = useChartLook();
/** What is drawn as points, in their order. */
const drawn = computed(() => props.skill.learning.filter((p) => p.rate.kind === 'rate'));
const rates = computed(() => props.skill.learning.map((p) => ({ at: `attempt ${p.attempt}`, rate: p.rate })));
const title = computed(() => `${skillWords(props.skill.skill)}: passed by attempt`);

const option = computed(() => learningOption(props.skill, rates.value, look.value));
</script>

<template>
  <ChartView
    :option="option"
    :title="title"
    :label="`${title}, ${skill.learning.length} attempt numbers`"
    :table="rateTable(rates, 'attempt')"
    @open="drawn[$event.dataIndex] && emit('open', drawn[$event.dataIndex]!.attempt)"
  />
</template>
