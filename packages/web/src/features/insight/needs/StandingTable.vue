<script setup lang="ts">
import { evidenceWords, rateWords, ruleWords, skillWords, STANDING_WORDS } from '@clear-mark/words';
import { type EvidenceCode, type Policy, STANDINGS } from '@clear-mark/core';
import type { Results } from '@clear-mark/contract';
import { computed } from 'vue';
import StandingMark from '../../../shared/StandingMark.vue';

const props = defineProps<{ classId: string; results: Results; policy: Policy }>();
interface Line {
  row: Results['standings'][number];
}
type Cell = Line['row']['cells'][number];
const evidenceOf = ({ evidence: { code, params }, rate }: Cell): string =>
  `${evidenceWords(code as EvidenceCode, params)} ${rateWords(rate)}`;
const passedOf = ({ rate }: Cell): string => (rate.kind === 'rate' ? `${rate.k}/${rate.n}` : '');
const skills = computed(() => props.results.standings[0]?.cells.map((c) => c.skill) ?? []);
</script>

<template>
  <el-table :data="[...results.standings]" row-key="traineeId" data-test="standings">
    <el-table-column prop="traineeName" label="Trainee" min-width="160" fixed sortable>
      <template #default="{ row }: Line"
        ><span class="name" :data-standing-of="row.traineeName">{{ row.traineeName }}</span></template
      >
    </el-table-column>
    <el-table-column
      v-for="(s, i) in skills"
      :key="s"
      :label="skillWords(s)"
      min-width="140"
      sortable
      :sort-by="(row: Line['row']) => STANDINGS.indexOf(row.cells[i]!.standing)"
    >
      <template #default="{ row }: Line">
        <RouterLink
          class="cell"
          :data-skill="s"
          :to="{ name: 'evidence', params: { classId, traineeId: row.traineeId, skill: s } }"
          :title="evidenceOf(row.cells[i]!)"
        >
          <StandingMark :standing="row.cells[i]!.standing" />
          <span class="words">
            <span>{{ STANDING_WORDS[row.cells[i]!.standing] }}</span>
            <span class="small soft">{{ passedOf(row.cells[i]!) }}</span>
          </span>
        </RouterLink>
      </template>
    </el-table-column>
  </el-table>
  <details>
    <summary>How a standing is decided</summary>
    <p class="soft">
      The first that holds. Lapsed: was competent, no pass within {{ policy.currencyMonths }} months. Retrain:
      {{ policy.stopRetrains ? 'a stop breach not cleared by passes in a row or a sign-off, or ' : '' }}the
      last {{ policy.failsInARow }} outcomes failed after at least {{ policy.retrainAfter
      }}{{ policy.chartRetrains ? ', or the chart of deterioration signals' : '' }}. Watch: was competent and
      the last outcome failed, or the last {{ policy.marginalInARow }} were all marginal passes. Competent:
      {{ ruleWords(policy) }}. Otherwise learning; not tried without a verdict. The figures are the class’s
      policy.
    </p>
  </details>
</template>

<style scoped>
.cell {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: var(--tap);
  color: var(--ink);
  text-decoration: none;
  border-radius: var(--round);
  padding: 0 6px 0 0;
}
.cell:hover {
  background: var(--sunk);
}
.words {
  display: flex;
  flex-wrap: wrap;
  gap: 0 8px;
  align-items: baseline;
}
.name {
  white-space: nowrap;
}
</style>
