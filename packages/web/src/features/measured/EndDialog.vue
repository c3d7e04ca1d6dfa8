<script setup lang="ts">
import type { CameraCard, EndLayer, EntryValue } from '@clear-mark/core';
import { computed } from 'vue';
import { END_REFUSAL_WORDS, hintOf, LAYER_WORDS } from './end.model.ts';
import EndShot from './EndShot.vue';
import MeasureFrame from './MeasureFrame.vue';
import { useEnd } from './use-end.ts';

/** A length of a prepared end measured in a photograph of it on its card. */
const props = defineProps<{
  classId: string;
  attemptId: string;
  criterionId: string;
  label: string;
  layer: EndLayer;
  card: CameraCard;
}>();
const emit = defineEmits<{ close: []; value: [value: EntryValue, source: 'instrument' | 'typed'] }>();
const work = useEnd(() => props);
const { shot, end, dragged, value, live } = work;
const alone = computed(
  (): EntryValue | null => value.value && { kind: 'measure', text: value.value.text, unit: 'mm' },
);
const refused = computed(() => {
  const reading = shot.value?.reading ?? live.value;
  return reading && !reading.ok ? END_REFUSAL_WORDS[reading.reason] : null;
});
const hint = computed(() => end.value && hintOf(end.value, props.layer, dragged.value));
const budget = computed(() => (dragged.value === null ? end.value?.[props.layer]?.budget : null));
const BUDGET_WORDS = {
  edges: 'edges',
  marks: 'marks',
  print: 'print',
  height: 'height over the paper',
  curvature: 'bend',
} as const;
</script>

<template>
  <MeasureFrame
    :label="label"
    intro="The end on its card for the camera, lying along the axis: the whole card in the picture, flat, one mark covered at most. Print the card from the method, Put on paper, at 100 %. Wear eye protection; offcuts go to the sharps container."
    simulated-label="Simulated photograph"
    is-large
    :work="work"
    :refused="refused"
    :value="value"
    :alone="alone"
    unit-words=" mm"
    @close="emit('close')"
    @value="(taken, source) => emit('value', taken, source)"
  >
    <template #shot>
      <EndShot :shot="shot!" :end="end" :layer="layer" :dragged="dragged" @drag="work.drag" />
    </template>
    <template #found>
      <p class="soft">{{ LAYER_WORDS[layer] }}{{ dragged === null ? '' : ', edge set by hand' }}</p>
      <p v-if="hint" class="soft">{{ hint }}</p>
      <details v-if="budget" class="soft budget">
        <summary>What the ± is made of</summary>
        <ul>
          <li v-for="(words, name) in BUDGET_WORDS" :key="name">
            {{ words }} {{ budget[name].toFixed(2) }} mm
          </li>
        </ul>
      </details>
    </template>
  </MeasureFrame>
</template>

<style scoped>
.budget ul {
  margin: 4px 0 0;
  padding-left: 18px;
}
</style>
