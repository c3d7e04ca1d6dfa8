<script setup lang="ts">
import type { CallsResult, FaceFault } from '@clear-mark/core';

import { kappaWords, rateWords, resultSentence } from './calls.model.ts';
import { KIND_WORDS } from '../face-words.ts';

/** What came out of a series: the sentence first, then the figures that it rests on. */
defineProps<{ result: CallsResult; missWeight?: number }>();
</script>

<template>
  <div>
    <p class="sentence" data-test="calls-sentence">{{ resultSentence(result) }}</p>
    <dl>
      <dt>Bad faces called bad</dt>
      <dd data-test="sensitivity">{{ rateWords(result.sensitivity) }}</dd>
      <dt>Good faces called good</dt>
      <dd>{{ rateWords(result.specificity) }}</dd>
      <dt>Agreement beyond chance, kappa</dt>
      <dd>{{ kappaWords(result.kappa) }}</dd>
      <template v-if="result.weighted !== null">
        <dt>
          Weighted agreement<template v-if="missWeight">, a miss as {{ missWeight }} false alarms</template>
        </dt>
        <dd>{{ Math.round(100 * result.weighted) }} %</dd>
      </template>
      <template v-if="result.medianMs !== null">
        <dt>Time a face, half of them under</dt>
        <dd>{{ (result.medianMs / 1000).toFixed(1) }} s</dd>
      </template>
    </dl>
    <p v-if="result.byKind.some((k) => k.missed > 0)">
      Missed:
      <template v-for="(k, i) in result.byKind.filter((x) => x.missed > 0)" :key="k.kind"
        ><template v-if="i > 0">, </template>{{ KIND_WORDS[k.kind as FaceFault] }} {{ k.missed }} of
        {{ k.faces }}</template
      >.
    </p>
  </div>
</template>

<style scoped>
.sentence {
  font-size: 1.25rem;
  font-weight: 700;
  margin-bottom: 6px;
}
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 4px 18px;
  margin: 0 0 8px;
}
dt {
  color: var(--ink-soft);
}
dd {
  margin: 0;
}
</style>
