<script setup lang="ts">
import { computed } from 'vue';
import { usePreferences } from './preferences.ts';

/** Lengths and distances in the person's own units; limits keep theirs and are converted exactly. */
const preferences = usePreferences();
const CHOICES = [
  { length: 'mm', distance: 'm' },
  { length: 'in', distance: 'ft' },
  { length: 'mm', distance: 'ft' },
  { length: 'in', distance: 'm' },
] as const;
const chosen = computed(() =>
  CHOICES.findIndex((c) => c.length === preferences.lengthUnit && c.distance === preferences.distanceUnit),
);
function choose(event: Event): void {
  const choice = CHOICES[Number((event.target as HTMLSelectElement).value)]!;
  preferences.setUnits(choice.length, choice.distance);
}
</script>

<template>
  <select class="units" aria-label="Units" :value="chosen" @change="choose">
    <option v-for="(c, i) in CHOICES" :key="i" :value="i">{{ c.length }}, {{ c.distance }}</option>
  </select>
</template>

<style scoped>
.units {
  min-height: var(--tap);
  border: 0;
  background: transparent;
  padding: 0 4px;
  cursor: pointer;
}
.units option {
  background: var(--sheet);
}
</style>
