<script setup lang="ts">
import {
  checkPolicy,
  DomainError,
  type Policy,
  policyOperating,
  type PolicyOperating,
} from '@clear-mark/core';
import { computed, ref } from 'vue';

const props = defineProps<{ policy: Policy }>();
/** Who passes easily, and who is not ready. */
const GOOD = 0.1;
const BAD = 0.3;
const RATES = [0.05, GOOD, 0.2, BAD, 0.5];
const SPANS = [10, 20, 40];
const pieces = ref(20);

const rows = computed((): readonly PolicyOperating[] | null => {
  try {
    const policy = checkPolicy(props.policy);
    return RATES.map((p) => policyOperating(policy, p, pieces.value));
  } catch (error) {
    if (error instanceof DomainError) return null;
    throw error;
  }
});
const rowAt = (p: number): PolicyOperating => rows.value!.find((row) => row.p === p)!;
const percent = (share: number): string =>
  share > 0.995 && share < 1
    ? 'over 99 %'
    : share < 0.005 && share > 0
      ? 'under 1 %'
      : `${Math.round(100 * share)} %`;
</script>

<template>
  <div class="operating" data-test="operating">
    <h3>What this policy makes of whom</h3>
    <p v-if="!rows" class="notice">
      These numbers contradict themselves or are out of range, so nothing can be foretold of them.
    </p>
    <template v-else>
      <div class="row" role="group" aria-label="Pieces made">
        <button
          v-for="n in SPANS"
          :key="n"
          class="act"
          type="button"
          :aria-pressed="pieces === n"
          @click="pieces = n"
        >
          {{ n }} pieces
        </button>
      </div>
      <table class="plain">
        <thead>
          <tr>
            <th>who fails</th>
            <th class="n">shown competent</th>
            <th class="n">asked to retrain</th>
            <th class="n">pieces until competent</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="row.p" :data-rate="row.p">
            <td>{{ Math.round(100 * row.p) }} in 100</td>
            <td class="n">{{ percent(row.competent) }}</td>
            <td class="n">{{ percent(row.retrain) }}</td>
            <td class="n">{{ row.pieces === null ? 'never' : row.pieces.toFixed(1) }}</td>
          </tr>
        </tbody>
      </table>
      <p>
        False sign-off: who fails 3 in 10 is shown competent within {{ pieces }} pieces with a chance of
        <strong>{{ percent(rowAt(BAD).competent) }}</strong>. Needless retraining: who fails 1 in 10 is asked
        to it with a chance of <strong>{{ percent(rowAt(GOOD).retrain) }}</strong>.
      </p>
      <p class="soft small">
        Counted exactly from the streaks, each piece failing by the same chance; stop breaches, marginal
        passes and lapses not counted.
      </p>
    </template>
  </div>
</template>

<style scoped>
.operating {
  margin-top: 18px;
  max-width: 760px;
}
.operating table {
  margin: 10px 0;
}
</style>
