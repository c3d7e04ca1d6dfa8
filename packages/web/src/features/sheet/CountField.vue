<script setup lang="ts">
import type { CountCriterion, CriterionOutcome, Entry, EntryValue } from '@clear-mark/core';
import { MAX_COUNT } from '@clear-mark/core';
import { computed } from 'vue';
import { bandOfCriterion } from '../../shared/band-scale.model.ts';
import BandScale from '../../shared/BandScale.vue';
import { valueText } from './sheet.model.ts';
import { useCommittedValue } from './use-committed-value.ts';

const props = defineProps<{
  criterion: CountCriterion;
  entry: Entry | null;
  outcome: CriterionOutcome;
  locked: boolean;
}>();
const emit = defineEmits<{ value: [value: EntryValue]; focus: [] }>();

const stands = computed(() => valueText(props.entry?.value ?? null));
const { text, changed, take } = useCommittedValue({
  stands: () => stands.value,
  settled: () => props.outcome.state === 'scored',
  commit: () => {
    if (count.value !== null) emit('value', { kind: 'count', count: count.value });
  },
});
const scale = computed(() => bandOfCriterion(props.criterion)!);
const count = computed(() => (/^\d{1,4}$/.test(text.value.trim()) ? Number(text.value) : null));
/** Said at once, and not only when it is taken: a grey button tells nobody why. */
const wrong = computed(() =>
  text.value.trim() === '' || count.value !== null
    ? null
    : `Whole ${props.criterion.noun} only, 0 to ${MAX_COUNT}.`,
);

function step(by: number): void {
  emit('focus');
  text.value = String(Math.min(MAX_COUNT, Math.max(0, (count.value ?? 0) + by)));
}
</script>

<template>
  <div class="count">
    <BandScale
      :scale="scale"
      :value="count"
      :verdict="changed ? null : outcome.verdict"
      :unit="criterion.noun"
    />
    <button
      v-if="!locked"
      class="act"
      type="button"
      :aria-label="`One less: ${criterion.label}`"
      @click="step(-1)"
    >
      −
    </button>
    <label>
      <span class="sr">{{ criterion.label }}, {{ criterion.noun }}</span>
      <input
        v-model="text"
        data-number
        inputmode="numeric"
        autocomplete="off"
        :readonly="locked"
        @focus="emit('focus')"
        @keydown.enter.prevent="take"
      />
    </label>
    <button
      v-if="!locked"
      class="act"
      type="button"
      :aria-label="`One more: ${criterion.label}`"
      @click="step(1)"
    >
      +
    </button>
    <button v-if="!locked" class="act take" type="button" :disabled="count === null" @click="take">OK</button>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
  </div>
</template>

<style scoped>
.wrong {
  flex-basis: 100%;
  grid-column: 1 / -1;
  color: var(--fail);
  text-align: right;
}
.count {
  display: grid;
  grid-template-columns: minmax(120px, 190px) auto auto auto auto;
  align-items: center;
  gap: 8px;
}
input {
  width: 56px;
  text-align: center;
}
.act {
  font-size: 1.25rem;
  padding: 0;
}
.take {
  font-size: 1rem;
  min-width: 52px;
}
</style>
