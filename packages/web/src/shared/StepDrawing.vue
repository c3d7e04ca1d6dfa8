<script setup lang="ts">
import { STEP_DRAWINGS } from '@clear-mark/methods/drawings';
import { computed } from 'vue';

/** A step drawn from the side, where words fail. */
const props = defineProps<{ name: string }>();
const drawing = computed(() => STEP_DRAWINGS[props.name] ?? null);
</script>

<template>
  <svg
    v-if="drawing"
    class="step-drawing"
    role="img"
    :aria-label="drawing.says"
    :viewBox="`0 0 ${drawing.width} ${drawing.height}`"
    :width="drawing.width"
    :height="drawing.height"
  >
    <template v-for="(mark, i) in drawing.marks" :key="i">
      <text v-if="mark.style === 'word'" :x="mark.x" :y="mark.y">{{ mark.text }}</text>
      <path v-else :d="mark.path" :class="mark.style" />
    </template>
  </svg>
</template>

<style scoped>
.step-drawing {
  display: block;
  max-width: 100%;
  height: auto;
  margin-top: 8px;
}
path {
  fill: none;
  stroke: var(--ink);
  stroke-linecap: round;
  stroke-linejoin: round;
}
.line {
  stroke-width: 2.4;
}
.thin {
  stroke: var(--ink-soft);
  stroke-width: 1.4;
}
.part {
  fill: var(--sunk);
  stroke: var(--ink-soft);
  stroke-width: 1.6;
}
.fiber {
  stroke: var(--glass);
  stroke-width: 3;
}
.glow {
  stroke: var(--fail);
  fill: var(--fail-wash);
  stroke-width: 2.4;
}
.wrong {
  stroke: var(--fail);
  stroke-width: 3;
}
text {
  font-size: 14px;
  fill: var(--ink);
}
</style>
