<script setup lang="ts">
import { isPassMark, verdictOfMark } from '@clear-mark/core';
import { VERDICT_WORDS } from '@clear-mark/words';
import { computed } from 'vue';

/** The last outcomes, oldest first: a pass stands up, a fail hangs down, a marginal one is half as long. */
const props = defineProps<{ marks: string }>();
const bars = computed(() =>
  [...props.marks].map((mark, i) => {
    const long = mark === 'p' || mark === 'f' ? 6 : 11;
    return { x: 4 + i * 9, from: 13, to: isPassMark(mark) ? 13 - long : 13 + long, pass: isPassMark(mark) };
  }),
);
const label = computed(
  () =>
    `Last ${props.marks.length}: ${[...props.marks].map((m) => VERDICT_WORDS[verdictOfMark(m)]).join(', ')}`,
);
</script>

<template>
  <svg class="marks" :width="96" height="26" viewBox="0 0 96 26" role="img" :aria-label="label">
    <line x1="0" x2="94" y1="13" y2="13" class="axis" />
    <line
      v-for="bar in bars"
      :key="bar.x"
      :x1="bar.x"
      :x2="bar.x"
      :y1="bar.from"
      :y2="bar.to"
      :class="bar.pass ? 'pass' : 'fail'"
    />
  </svg>
</template>

<style scoped>
.axis {
  stroke: var(--hair);
}
.pass {
  stroke: var(--pass);
  stroke-width: 5;
}
.fail {
  stroke: var(--fail);
  stroke-width: 5;
}
</style>
