<script setup lang="ts">
import type { Step, StepOutcome } from '@clear-mark/core';
import { computed, ref } from 'vue';
import { skillWords } from '@clear-mark/words';
import StepDrawing from '../../shared/StepDrawing.vue';
import VerdictRing from '../../shared/VerdictRing.vue';

const props = defineProps<{
  step: Step;
  number: number;
  outcome: StepOutcome;
  current: boolean;
  /** How it is done is not told until somebody asks. */
  folded: boolean;
}>();
const open = ref(false);
const told = computed(() => !props.folded || open.value);
</script>

<template>
  <div class="step-head" :class="{ current }">
    <span class="number" aria-hidden="true">{{ number }}</span>
    <div class="text">
      <h2 :id="`step-${step.id}`">
        {{ step.title }} <span class="soft small skill">{{ skillWords(step.skill) }}</span>
        <button
          v-if="folded"
          class="more small"
          type="button"
          :aria-expanded="open"
          :aria-label="`How: ${step.title}`"
          @click="open = !open"
        >
          {{ open ? 'Less' : 'How' }}
        </button>
      </h2>
      <p v-if="told" class="how">{{ step.how }}</p>
      <StepDrawing v-if="told && step.drawing" :name="step.drawing" />
      <p v-for="(caution, i) in step.cautions ?? []" :key="i" class="caution">
        <b>{{ caution.stop ? 'Stop.' : 'Take care.' }}</b> {{ caution.text }}
      </p>
    </div>
    <VerdictRing :verdict="outcome.verdict" :share="outcome.share" :size="28" />
  </div>
</template>

<style scoped>
.step-head {
  display: grid;
  grid-template-columns: 34px minmax(0, 1fr) auto;
  gap: 8px;
  align-items: baseline;
  padding: 10px 20px 4px 12px;
  border-bottom: 1px solid var(--hair);
}
.number {
  font-size: 1.375rem;
  font-weight: 700;
  color: var(--ink-soft);
  text-align: right;
  line-height: 1.2;
}
.current .number {
  color: var(--accent);
}
.step-head > :last-child {
  align-self: start;
}
.how {
  color: var(--ink-soft);
  max-width: 66ch;
}
.skill {
  font-weight: 400;
  margin-left: 6px;
}
.more {
  min-height: 24px;
  min-width: 44px;
  padding: 0 6px;
  border: 0;
  background: none;
  color: var(--accent);
  text-decoration: underline;
  text-underline-offset: 3px;
  cursor: pointer;
}
@media (hover: hover) and (pointer: fine) {
  .step-head {
    padding-top: 3px;
    padding-bottom: 0;
  }
}
@media (pointer: coarse) {
  .more {
    min-height: var(--tap);
  }
}
.caution {
  margin-top: 4px;
  padding-left: 10px;
  border-left: 3px solid var(--ink);
  max-width: 66ch;
}
</style>
