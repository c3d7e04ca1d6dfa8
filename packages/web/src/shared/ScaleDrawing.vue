<script setup lang="ts">
import { DRAWINGS } from '@clear-mark/methods/drawings';
import { computed } from 'vue';

/** A cleaved or polished face seen end on, for one level of a described scale. */
const props = defineProps<{ name: string | undefined }>();
const drawing = computed(() => (props.name === undefined ? null : (DRAWINGS[props.name] ?? null)));
</script>

<template>
  <svg v-if="drawing" class="drawing" viewBox="0 0 64 64" aria-hidden="true">
    <rect v-if="drawing.side" x="0" y="18" width="64" height="28" class="face" />
    <circle v-else cx="32" cy="32" r="26" class="face" />
    <circle v-if="drawing.core" cx="32" cy="32" r="4" class="core" />
    <path v-for="(mark, i) in drawing.marks" :key="i" :d="mark.path" :class="mark.style" />
  </svg>
</template>

<style scoped>
.drawing {
  width: 44px;
  height: 44px;
  flex: none;
}
.face {
  fill: var(--sunk);
  stroke: var(--ink-soft);
  stroke-width: 2;
}
.core {
  fill: none;
  stroke: var(--ink-soft);
  stroke-width: 1.5;
}
.line {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2.4;
}
.area {
  fill: var(--ink);
}
.haze {
  fill: var(--ink);
  opacity: 0.35;
}
</style>
