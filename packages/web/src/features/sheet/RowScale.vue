<script setup lang="ts">
import type { Verdict } from '@clear-mark/core';

/** The readings of one fiber on the scale that all rows share: the band to the limit, and a mark for each. */
const props = defineProps<{
  scale: { readonly limit: number; readonly to: number };
  marks: readonly { readonly value: number; readonly verdict: Verdict }[];
}>();
const along = (value: number): number => Math.min(214, Math.max(4, (value / props.scale.to) * 216));
</script>

<template>
  <svg viewBox="0 0 220 30" width="220" height="30" aria-hidden="true">
    <line x1="0" x2="220" y1="15" y2="15" class="axis" />
    <rect x="0" :width="along(scale.limit)" y="9" height="12" class="inside" />
    <path
      v-for="(mark, i) in marks"
      :key="i"
      :class="mark.verdict"
      class="tick"
      :d="i % 2 === 0 ? `M${along(mark.value)} 3v24` : `M${along(mark.value) - 5} 15l5 -9l5 9l-5 9Z`"
    />
  </svg>
</template>

<style scoped>
svg {
  display: block;
}
.axis {
  stroke: var(--hair-strong);
}
.inside {
  fill: var(--band);
}
.tick {
  fill: none;
  stroke: var(--ink);
  stroke-width: 3;
}
.pass {
  stroke: var(--pass);
}
.marginal_pass,
.marginal_fail {
  stroke: var(--marginal);
}
.fail {
  stroke: var(--fail);
}
</style>
