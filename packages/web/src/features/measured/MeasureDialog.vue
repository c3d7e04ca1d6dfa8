<script setup lang="ts">
import type { EntryValue } from '@clear-mark/core';
import { computed } from 'vue';
import { CLASS_WORDS, REFUSAL_WORDS } from './cleave.model.ts';
import MeasuredShot from './MeasuredShot.vue';
import MeasureFrame from './MeasureFrame.vue';
import { useMeasured } from './use-measured.ts';

/** A cleave measured in a picture: from the camera as soon as it is held still, or from a file. */
const props = defineProps<{
  classId: string;
  attemptId: string;
  criterionId: string;
  label: string;
}>();
const emit = defineEmits<{ close: []; value: [value: EntryValue, source: 'instrument' | 'typed'] }>();
const work = useMeasured(() => props);
const { shot, ends, end, side, dragged, ofScreen, value, live } = work;
const alone = computed(
  (): EntryValue | null => value.value && { kind: 'measure', text: value.value.text, unit: 'deg' },
);
const refused = computed(() => {
  const reading = shot.value?.reading ?? live.value;
  return reading && !reading.ok ? REFUSAL_WORDS[reading.reason] : null;
});
</script>

<template>
  <MeasureFrame
    :label="label"
    intro="One end from the side, or two that face each other, with the light behind: from a cleave scope, a splicer’s screen or a photograph of it. Wear eye protection; offcuts go to the sharps container."
    simulated-label="Simulated scope"
    :work="work"
    :refused="refused"
    :value="value"
    :alone="alone"
    unit-words="°"
    @close="emit('close')"
    @value="(taken, source) => emit('value', taken, source)"
  >
    <template #shot>
      <MeasuredShot
        :shot="shot!"
        :ends="ends"
        :side="side"
        :dragged="dragged"
        @drag="work.drag"
        @choose="work.choose"
      />
    </template>
    <template #choose>
      <el-radio-group
        v-if="ends.length > 1"
        :model-value="side"
        size="large"
        aria-label="Which end"
        @update:model-value="work.choose($event as 'left' | 'right')"
      >
        <el-radio-button v-for="e in ends" :key="e.side" :value="e.side">{{
          e.side === 'left' ? 'Left end' : 'Right end'
        }}</el-radio-button>
      </el-radio-group>
    </template>
    <template #found>
      <p v-if="end" class="soft">
        {{ CLASS_WORDS[end.class] }}{{ end.isDirty ? ', something lies on it' : ''
        }}{{ dragged ? ', line set by hand' : '' }}
      </p>
      <el-checkbox
        :model-value="ofScreen"
        size="large"
        data-test="of-screen"
        @update:model-value="work.setOfScreen($event === true)"
        >Photographed from a screen</el-checkbox
      >
    </template>
  </MeasureFrame>
</template>
