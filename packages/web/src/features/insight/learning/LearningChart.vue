<script setup lang="ts">
import type { SkillInTime } from '@clear-mark/contract';
import { SKILL_WORDS } from '@clear-mark/words';
import { computed } from 'vue';
import { useChartLook } from '../../../charts/chart-look.ts';
import ChartView from '../../../charts/ChartView.vue';
import { rateAxes, rateSeries, rateTable } from '../rate-series.ts';
import { FEW } from './skills.model.ts';

const props = defineProps<{ skill: SkillInTime }>();
const emit = defineEmits<{ open: [attempt: number] }>();
const look = useChartLook();
/** What is drawn as points, in their order. */
const drawn = computed(() => props.skill.learning.filter((p) => p.rate.kind === 'rate'));
const rates = computed(() => props.skill.learning.map((p) => ({ at: `attempt ${p.attempt}`, rate: p.rate })));
const title = computed(() => `${SKILL_WORDS[props.skill.skill]}: passed by attempt`);

/** A line through the outcomes of a handful of trainees is not drawn as if it were known. */
const few = computed(() => {
  const first = props.skill.learning[0]?.rate;
  return !first || first.kind === 'none' || first.n < FEW;
});

const option = computed(() => ({
  animation: false,
  tooltip: look.value.tooltip,
  ...rateAxes(
    props.skill.learning.map((p) => String(p.attempt)),
    'a trainee’s attempts in this skill',
    look.value,
  ),
  series: [
    {
      type: 'line',
      silent: true,
      showSymbol: false,
      step: 'middle',
      lineStyle: few.value
        ? { color: look.value.token('--ink-soft'), width: 1.5, type: 'dashed' }
        : { color: look.value.token('--ink'), width: 2 },
      data: props.skill.learning.map((p) => 1 - p.level),
    },
    ...rateSeries(rates.value, look.value),
  ],
}));
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
