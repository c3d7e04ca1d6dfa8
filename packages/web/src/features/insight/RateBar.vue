<script setup lang="ts">
import type { StandingCell } from '@clear-mark/contract';
import { computed } from 'vue';
import { percent } from '@clear-mark/words';

/** A rate on a line from 0 to 100 %: the tick is the rate, the thick part its 95 % interval. Wide means little data. */
const props = defineProps<{ rate: StandingCell['rate']; compact?: boolean }>();
const W = 160;
const x = (share: number): number => 4 + share * (W - 8);
const label = computed(() =>
  props.rate.kind === 'none'
    ? 'none yet'
    : `${percent(props.rate.share)}, ${props.rate.k} of ${props.rate.n}, interval ${percent(props.rate.low)} to ${percent(props.rate.high)}`,
);
</script>

<template>
  <svg class="rate" :viewBox="`0 0 ${W} 18`" role="img" :aria-label="label">
    <line :x1="x(0)" :x2="x(1)" y1="9" y2="9" class="axis" />
    <line v-for="q in [0, 0.5, 1]" :key="q" :x1="x(q)" :x2="x(q)" y1="6" y2="12" class="axis" />
    <template v-if="rate.kind === 'rate'">
      <line :x1="x(rate.low)" :x2="x(rate.high)" y1="9" y2="9" class="interval" />
      <line :x1="x(rate.share)" :x2="x(rate.share)" y1="1" y2="17" class="tick" />
    </template>
  </svg>
</template>

<style scoped>
.rate {
  width: 100%;
  max-width: 180px;
  height: 18px;
  display: block;
}
.axis {
  stroke: var(--hair-strong);
  stroke-width: 1;
}
.interval {
  stroke: var(--hair-strong);
  stroke-width: 7;
}
.tick {
  stroke: var(--ink);
  stroke-width: 3.5;
}
</style>
