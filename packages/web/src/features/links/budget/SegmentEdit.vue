<script setup lang="ts">
import { coefficientProblem, typedProblem } from '@clear-mark/words';
import {
  isSingleMode,
  type LinkPlan,
  type LinkSegment,
  TRUNK_TYPES,
  readCoefficient,
  readTyped,
  wavelengthsOf,
} from '@clear-mark/core';
import { computed, ref } from 'vue';
import CommitField from '../../../shared/CommitField.vue';
import ChoiceField from '../../../shared/ChoiceField.vue';

/** What can be changed of one part of a link. */
const props = defineProps<{
  segment: LinkSegment;
  number: number;
  fiberClass: LinkPlan['fiberClass'];
  unit: 'm' | 'ft';
}>();
const emit = defineEmits<{ change: [change: Partial<LinkSegment>]; remove: [] }>();
const METRES_PER_FOOT = 0.3048;
const problem = ref<string | null>(null);
const text = computed(() => {
  if (props.segment.kind === 'cassette') return '';
  const { lengthM } = props.segment;
  return String(Math.round((props.unit === 'm' ? lengthM : lengthM / METRES_PER_FOOT) * 1000) / 1000);
});
function setLength(typed: string): void {
  const length = readTyped(typed, { least: 0 });
  problem.value = typedProblem(length, 'a length', props.unit);
  if (length.kind !== 'number') return;
  emit('change', { lengthM: props.unit === 'm' ? length.value : length.value * METRES_PER_FOOT });
}
/** The coefficient of the data sheet; cleared, it is the table's again. */
function setOwn(nm: number, text: string): void {
  if (props.segment.kind !== 'cable') return;
  const typed = readCoefficient(text);
  problem.value = typed.kind === 'empty' ? null : coefficientProblem(typed);
  if (typed.kind !== 'empty' && typed.kind !== 'coefficient') return;
  const { [nm]: _, ...rest } = props.segment.dbPerKm ?? {};
  const dbPerKm = typed.kind === 'coefficient' ? Math.round(typed.dbPerKm * 1e4) / 1e4 : null;
  emit('change', { dbPerKm: dbPerKm === null ? rest : { ...rest, [nm]: dbPerKm } });
}
const TRUNK_WORDS = { A: 'A, key up to key down', B: 'B, key up to key up', C: 'C, pairs crossed' };
</script>

<template>
  <div class="edit row" role="group" :aria-label="`Part ${number}`">
    <b>Part {{ number }}</b>
    <label v-if="segment.kind !== 'cassette'" class="row inline">
      <span class="soft">Length</span>
      <CommitField
        class="lined number"
        inputmode="decimal"
        :label="`Length in ${unit}`"
        :value="text"
        @commit="setLength"
      />
      <span class="unit">{{ unit }}</span>
    </label>
    <el-button
      size="large"
      :aria-pressed="segment.polish === 'angled'"
      @click="emit('change', { polish: segment.polish === 'angled' ? 'flat' : 'angled' })"
    >
      Angled polish
    </el-button>
    <ChoiceField
      v-if="segment.kind === 'trunk'"
      inline
      label="Type"
      :model-value="segment.trunk"
      :options="TRUNK_TYPES.map((t) => ({ value: t, label: TRUNK_WORDS[t] }))"
      @change="(trunk) => emit('change', { trunk })"
    />
    <el-button
      v-if="segment.kind === 'cassette'"
      size="large"
      :aria-pressed="segment.turned"
      @click="emit('change', { turned: !segment.turned })"
    >
      Turned
    </el-button>
    <el-button
      v-if="segment.kind !== 'cable'"
      size="large"
      :aria-pressed="segment.pins"
      @click="emit('change', { pins: !segment.pins })"
    >
      Pins
    </el-button>
    <ChoiceField
      v-if="segment.kind === 'cable' && !isSingleMode(fiberClass)"
      inline
      label="Core"
      :model-value="segment.coreUm ?? 0"
      :options="[
        { value: 0, label: 'as the class' },
        { value: 50, label: '50 µm' },
        { value: 62.5, label: '62.5 µm' },
      ]"
      @change="(um) => emit('change', { coreUm: um || undefined } as Partial<LinkSegment>)"
    />
    <template v-if="segment.kind === 'cable'">
      <label v-for="nm in wavelengthsOf(fiberClass)" :key="nm" class="row inline">
        <span class="soft">{{ nm }} nm</span>
        <CommitField
          class="lined number own"
          :label="`Coefficient at ${nm} nm by its data sheet, dB/km or a form like 0.1 dB per 600 ft; empty is the table’s`"
          title="dB/km, or as the data sheet says it: 1 dB per 1000 ft, 0.1 dB per 100 m. Two forms with = are compared."
          placeholder="table"
          :value="segment.dbPerKm?.[nm] === undefined ? '' : String(segment.dbPerKm[nm])"
          @commit="(typed) => setOwn(nm, typed)"
        />
        <span class="unit">dB/km</span>
      </label>
    </template>
    <el-button size="large" @click="emit('remove')">Remove</el-button>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
  </div>
</template>

<style scoped>
.edit {
  background: var(--accent-wash);
  padding: 8px 12px;
  border-radius: var(--round);
}
.inline {
  gap: 6px;
}
.number {
  width: 100px;
  font-size: 1.25rem;
  font-weight: 700;
}
.number :deep(input) {
  text-align: right;
}
.own {
  width: 84px;
}
.own :deep(input::placeholder) {
  font-size: 1rem;
  font-weight: 400;
}
.problem {
  flex-basis: 100%;
  border-left: 4px solid var(--ink);
  padding-left: 8px;
}
</style>
