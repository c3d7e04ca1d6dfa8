<script setup lang="ts">
import type { Results } from '@clear-mark/contract';
import { SKILL_WORDS } from '@clear-mark/words';
import { firstPasses, percent } from './insight.model.ts';
import RateBar from './RateBar.vue';
import type { RecordsLink } from './records-link.ts';

defineProps<{ results: Results; link: RecordsLink }>();
</script>

<template>
  <table class="plain">
    <thead>
      <tr>
        <th>Skill</th>
        <th class="n">Pass rate</th>
        <th>95 % interval</th>
        <th>Passed of judged</th>
        <th>First attempts</th>
        <th>First pass came at attempt</th>
        <th class="n">Void</th>
        <th class="n">Incomplete</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="{ skill, summary } in results.skills" :key="skill" :data-skill="skill">
        <td>
          <b>{{ SKILL_WORDS[skill] }}</b>
        </td>
        <td class="n">
          <span class="figure">{{
            summary.rate.kind === 'rate' ? percent(summary.rate.share) : 'none yet'
          }}</span>
        </td>
        <td class="bar"><RateBar :rate="summary.rate" /></td>
        <td>
          <RouterLink v-if="summary.rate.kind === 'rate'" :to="link({ skill, verdict: 'judged' })"
            >{{ summary.rate.k }} of {{ summary.rate.n }}</RouterLink
          >
        </td>
        <td>
          <RouterLink
            v-if="summary.firstAttempt.kind === 'rate'"
            :to="link({ skill, verdict: 'judged', firstOnly: 'yes' })"
            >{{ summary.firstAttempt.k }} of {{ summary.firstAttempt.n }}</RouterLink
          >
        </td>
        <td>
          <span v-for="row in firstPasses(summary)" :key="row.label" class="first"
            ><span class="soft small">{{ row.label }}</span> {{ row.count }}</span
          >
        </td>
        <td class="n">
          <RouterLink v-if="summary.void > 0" :to="link({ skill, verdict: 'void' })">{{
            summary.void
          }}</RouterLink><span v-else class="soft">0</span>
        </td>
        <td class="n">
          <RouterLink v-if="summary.incomplete > 0" :to="link({ skill, verdict: 'incomplete' })">{{
            summary.incomplete
          }}</RouterLink><span v-else class="soft">0</span>
        </td>
      </tr>
    </tbody>
  </table>
  <details>
    <summary>How this is counted</summary>
    <p class="soft">
      n is the signed attempts with a verdict in the skill, k the passes and marginal passes; void and
      incomplete ones stand beside it. The interval is Wilson’s score interval without continuity correction
      (Wilson 1927): (2k + z² ∓ z√(z² + 4k(n − k)/n)) / (2(n + z²)), z = 1.96.
    </p>
  </details>
</template>

<style scoped>
.bar {
  min-width: 150px;
}
.first {
  display: inline-block;
  margin-right: 12px;
  white-space: nowrap;
}
</style>
