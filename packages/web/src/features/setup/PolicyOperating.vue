<script setup lang="ts">
import { isErrorCode } from '@clear-mark/contract';
import {
  chartLimits,
  checkPolicy,
  DomainError,
  type Policy,
  policyOperating,
  type PolicyOperating,
  runLength,
} from '@clear-mark/core';
import { errorWords } from '@clear-mark/words';
import { computed, ref } from 'vue';

const props = defineProps<{ policy: Policy }>();
const SPANS = [10, 20, 40];
const pieces = ref(20);
/** Who passes easily, and who is not ready, as the policy has them; and some beside them. */
const rates = computed(() =>
  [...new Set([0.05, props.policy.pGood, 0.2, props.policy.pBad, 0.5])].sort((a, b) => a - b),
);

type Foretold =
  | { readonly kind: 'rows'; readonly rows: readonly PolicyOperating[]; readonly chart: Chart }
  | { readonly kind: 'refused'; readonly words: string };
interface Chart {
  readonly learning: number;
  readonly deterioration: number;
  /** Mean pieces to the signal of one who is good, and of one who is not. */
  readonly good: number | null;
  readonly bad: number | null;
}
const foretold = computed((): Foretold => {
  try {
    const policy = checkPolicy(props.policy);
    const limits = chartLimits(policy);
    const mean = (p: number): number | null => {
      const run = runLength(policy, limits.deterioration, 'deterioration', p);
      return run.kind === 'run_length' ? run.mean : null;
    };
    return {
      kind: 'rows',
      rows: rates.value.map((p) => policyOperating(policy, p, pieces.value)),
      chart: { ...limits, good: mean(policy.pGood), bad: mean(policy.pBad) },
    };
  } catch (error) {
    if (!(error instanceof DomainError)) throw error;
    return {
      kind: 'refused',
      words: isErrorCode(error.code)
        ? errorWords(error.code, error.params)
        : 'Nothing can be foretold of it.',
    };
  }
});
const rows = computed(() => (foretold.value.kind === 'rows' ? foretold.value.rows : null));
interface Line {
  row: PolicyOperating;
}
const chart = computed(() => (foretold.value.kind === 'rows' ? foretold.value.chart : null));
const words = computed(() => (foretold.value.kind === 'refused' ? foretold.value.words : ''));
const rowAt = (p: number): PolicyOperating => rows.value!.find((row) => row.p === p)!;
const inAHundred = (p: number): string => `${Math.round(1000 * p) / 10} in 100`;
const meanWords = (mean: number | null): string =>
  mean === null ? 'no number of pieces' : `${mean.toFixed(0)} pieces on the average`;
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
      {{ words }}
    </p>
    <template v-else>
      <div class="row" role="group" aria-label="Pieces made">
        <el-button v-for="n in SPANS" :key="n" size="large" :aria-pressed="pieces === n" @click="pieces = n">
          {{ n }} pieces
        </el-button>
      </div>
      <el-table class="rates" :data="rows as PolicyOperating[]" row-key="p">
        <el-table-column label="who fails" min-width="150">
          <template #default="{ row }: Line">
            <span :data-rate="row.p">{{ inAHundred(row.p) }}</span>
          </template>
        </el-table-column>
        <el-table-column label="shown competent" align="right" width="160">
          <template #default="{ row }: Line">{{ percent(row.competent) }}</template>
        </el-table-column>
        <el-table-column label="asked to retrain" align="right" width="160">
          <template #default="{ row }: Line">{{ percent(row.retrain) }}</template>
        </el-table-column>
        <el-table-column label="pieces until competent" align="right" width="200">
          <template #default="{ row }: Line">{{
            row.pieces === null ? 'never' : row.pieces.toFixed(1)
          }}</template>
        </el-table-column>
      </el-table>
      <p>
        False sign-off: who fails {{ inAHundred(policy.pBad) }} is shown competent within {{ pieces }} pieces
        with a chance of <strong>{{ percent(rowAt(policy.pBad).competent) }}</strong>. Needless retraining:
        who fails {{ inAHundred(policy.pGood) }} is asked to it with a chance of
        <strong>{{ percent(rowAt(policy.pGood).retrain) }}</strong>.
      </p>
      <p v-if="chart" data-test="chart-limits">
        The chart of learning shows competence at {{ chart.learning.toFixed(2) }}, that of deterioration
        signals at {{ chart.deterioration.toFixed(2) }}: after {{ meanWords(chart.good) }} of one who is good,
        after {{ meanWords(chart.bad) }} of one who is not.
      </p>
      <p class="soft small">
        Counted exactly by a Markov chain over what the rules look at, each piece failing by the same chance;
        stop breaches, marginal passes and lapses not counted.
      </p>
    </template>
  </div>
</template>

<style scoped>
.operating {
  margin-top: 18px;
  max-width: 760px;
}
.operating .rates {
  margin: 10px 0;
}
</style>
