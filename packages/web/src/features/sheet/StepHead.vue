<script setup lang="ts">
import type { Step, StepOutcome } from '@clear-mark/core';
import { SKILL_WORDS } from '@clear-mark/words';
import StepDrawing from '../../shared/StepDrawing.vue';
import VerdictRing from '../../shared/VerdictRing.vue';

defineProps<{ step: Step; number: number; outcome: StepOutcome; current: boolean }>();
</script>

<template>
  <div class="step-head" :class="{ current }">
    <span class="number" aria-hidden="true">{{ number }}</span>
    <div class="text">
      <h2 :id="`step-${step.id}`">
        {{ step.title }} <span class="soft small skill">{{ SKILL_WORDS[step.skill] }}</span>
      </h2>
      <p class="how">{{ step.how }}</p>
      <StepDrawing v-if="step.drawing" :name="step.drawing" />
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
  align-items: start;
  padding: 18px 20px 8px 12px;
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
.how {
  color: var(--ink-soft);
  max-width: 66ch;
}
.skill {
  font-weight: 400;
  margin-left: 6px;
}
.caution {
  margin-top: 4px;
  padding-left: 10px;
  border-left: 3px solid var(--ink);
  max-width: 66ch;
}
</style>
