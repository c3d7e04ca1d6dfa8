<script setup lang="ts">
import type { EntryValue, GradeCriterion } from '@clear-mark/core';
import { computed } from 'vue';
import MeasureFrame from './MeasureFrame.vue';
import { figuresOf, JOINT_REFUSAL_WORDS, JOINT_WORDS } from './splice.model.ts';
import SpliceShot from './SpliceShot.vue';
import { useSplice } from './use-splice.ts';

/** A joint after the arc measured in a picture: what it is called, and its loss beside the splicer's own estimate. */
const props = defineProps<{
  classId: string;
  attemptId: string;
  criterionId: string;
  label: string;
  levels: GradeCriterion['levels'];
}>();
const emit = defineEmits<{ close: []; value: [value: EntryValue, source: 'instrument' | 'typed'] }>();
const work = useSplice(() => props);
const { shot, joint, chosen, level, found, value, loss, dragged, live } = work;
const refused = computed(() => {
  const reading = shot.value?.reading ?? live.value;
  return reading && !reading.ok ? JOINT_REFUSAL_WORDS[reading.reason] : null;
});
const taking = computed(() => props.levels.find((l) => l.id === level.value)?.label);
const isOtherwise = computed(() => found.value !== null && level.value !== found.value);
const alone = computed((): EntryValue | null => value.value && { kind: 'grade', level: level.value! });
</script>

<template>
  <MeasureFrame
    :label="label"
    intro="The joint after the arc from the side, one view or two: the splicer’s screen, or its picture as a file. Wear eye protection; offcuts go to the sharps container."
    simulated-label="Simulated splicer"
    :work="work"
    :refused="refused"
    :value="loss"
    unit-words=" dB"
    :alone="alone"
    :taking="taking"
    @close="emit('close')"
    @value="(taken, source) => emit('value', taken, source)"
  >
    <template #shot>
      <SpliceShot :shot="shot!" :joint="joint" :dragged="dragged" @drag="work.drag" @settle="work.settle" />
    </template>
    <template #choose>
      <el-radio-group
        :model-value="level ?? undefined"
        size="large"
        aria-label="What the joint is"
        @update:model-value="chosen = String($event)"
      >
        <el-radio-button v-for="l in levels" :key="l.id" :value="l.id">{{ l.label }}</el-radio-button>
      </el-radio-group>
    </template>
    <template #found>
      <p v-if="joint" class="soft" data-test="joint-found">
        Found: {{ JOINT_WORDS[joint.class] }}{{ isOtherwise ? ', called otherwise by hand' : '' }};
        {{ figuresOf(joint).join(', ') }}; loss by the cores at 1310 nm{{
          dragged === null ? '' : ', place set by hand'
        }}
      </p>
    </template>
  </MeasureFrame>
</template>
