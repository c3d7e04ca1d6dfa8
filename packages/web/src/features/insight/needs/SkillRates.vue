<script setup lang="ts">
import type { Results } from '@clear-mark/contract';
import { skillWords } from '@clear-mark/words';
import { percent } from '@clear-mark/words';
import { firstPasses } from '../insight.model.ts';
import RateBar from '../RateBar.vue';
import type { RecordsLink } from '../records-link.ts';

defineProps<{ results: Results; link: RecordsLink }>();
interface Line {
  row: Results['skills'][number];
}
/** What counts in no rate stands beside it. */
const BESIDE = [
  { verdict: 'void', label: 'Void' },
  { verdict: 'incomplete', label: 'Incomplete' },
] as const;
const shareOf = ({ summary }: Line['row']): number =>
  summary.rate.kind === 'rate' ? summary.rate.share : -1;
</script>

<template>
  <el-table :data="[...results.skills]" row-key="skill" data-test="skill-rates">
    <el-table-column label="Skill" min-width="150">
      <template #default="{ row: { skill } }: Line"
        ><b :data-skill="skill">{{ skillWords(skill) }}</b></template
      >
    </el-table-column>
    <el-table-column label="Pass rate" align="right" width="130" sortable :sort-by="shareOf">
      <template #default="{ row: { summary } }: Line"
        ><span class="figure">{{
          summary.rate.kind === 'rate' ? percent(summary.rate.share) : 'none yet'
        }}</span></template
      >
    </el-table-column>
    <el-table-column label="95 % interval" min-width="170">
      <template #default="{ row: { summary } }: Line"><RateBar :rate="summary.rate" /></template>
    </el-table-column>
    <el-table-column label="Passed of judged" width="150">
      <template #default="{ row: { skill, summary } }: Line">
        <RouterLink v-if="summary.rate.kind === 'rate'" :to="link({ skill, verdict: 'judged' })"
          >{{ summary.rate.k }} of {{ summary.rate.n }}</RouterLink
        >
      </template>
    </el-table-column>
    <el-table-column label="First attempts" width="130">
      <template #default="{ row: { skill, summary } }: Line">
        <RouterLink
          v-if="summary.firstAttempt.kind === 'rate'"
          :to="link({ skill, verdict: 'judged', firstOnly: 'yes' })"
          >{{ summary.firstAttempt.k }} of {{ summary.firstAttempt.n }}</RouterLink
        >
      </template>
    </el-table-column>
    <el-table-column label="First pass came at attempt" min-width="240">
      <template #default="{ row: { summary } }: Line">
        <span v-for="first in firstPasses(summary)" :key="first.label" class="first"
          ><span class="soft small">{{ first.label }}</span> {{ first.count }}</span
        >
      </template>
    </el-table-column>
    <el-table-column
      v-for="{ verdict, label } in BESIDE"
      :key="verdict"
      :prop="`summary.${verdict}`"
      :label="label"
      align="right"
      width="130"
      sortable
    >
      <template #default="{ row: { skill, summary } }: Line">
        <RouterLink v-if="summary[verdict] > 0" :to="link({ skill, verdict })">{{
          summary[verdict]
        }}</RouterLink>
        <span v-else class="soft">0</span>
      </template>
    </el-table-column>
  </el-table>
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
.first {
  display: inline-block;
  margin-right: 12px;
  white-space: nowrap;
}
</style>
