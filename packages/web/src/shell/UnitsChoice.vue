<script setup lang="ts">
import { computed } from 'vue';
import { usePreferences } from './preferences.ts';
import ChoiceField from '../shared/ChoiceField.vue';

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
function choose(index: number): void {
  const choice = CHOICES[index]!;
  preferences.setUnits(choice.length, choice.distance);
}
</script>

<template>
  <ChoiceField
    class="units"
    label="Units"
    :model-value="chosen"
    :options="CHOICES.map((c, i) => ({ value: i, label: `${c.length}, ${c.distance}` }))"
    @change="choose"
  />
</template>
