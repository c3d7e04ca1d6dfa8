<script setup lang="ts">
import type { EvidenceCode, Policy } from '@clear-mark/core';
import type { Results } from '@clear-mark/contract';
import { evidenceWords, ruleWords, SKILL_WORDS, STANDING_WORDS } from '@clear-mark/words';
import { computed } from 'vue';
import { rateWords } from './insight.model.ts';
import StandingMark from '../../shared/StandingMark.vue';

const props = defineProps<{ classId: string; results: Results; policy: Policy }>();
const skills = computed(() => props.results.standings[0]?.cells.map((c) => c.skill) ?? []);
</script>

<template>
  <div class="scroll">
    <table class="plain">
      <thead>
        <tr>
          <th>Trainee</th>
          <th v-for="s in skills" :key="s">{{ SKILL_WORDS[s] }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in results.standings" :key="row.traineeId" :data-standing-of="row.traineeName">
          <td class="name">{{ row.traineeName }}</td>
          <td v-for="cell in row.cells" :key="cell.skill" :data-skill="cell.skill">
            <RouterLink
              class="cell"
              :to="{ name: 'evidence', params: { classId, traineeId: row.traineeId, skill: cell.skill } }"
              :title="`${evidenceWords(cell.evidence.code as EvidenceCode, cell.evidence.params)} ${rateWords(cell.rate)}`"
            >
              <StandingMark :standing="cell.standing" />
              <span class="words">
                <span>{{ STANDING_WORDS[cell.standing] }}</span>
                <span class="small soft">{{
                  cell.rate.kind === 'rate' ? `${cell.rate.k}/${cell.rate.n}` : ''
                }}</span>
              </span>
            </RouterLink>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
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
.scroll {
  overflow-x: auto;
}
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
td {
  padding-top: 1px !important;
  padding-bottom: 1px !important;
}
</style>
