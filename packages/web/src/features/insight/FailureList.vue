<script setup lang="ts">
import type { CriterionFailure } from '@clear-mark/contract';
import { faultWords, SKILL_WORDS } from '@clear-mark/words';
import { computed, ref } from 'vue';
import type { RecordsLink } from './records-link.ts';

const props = defineProps<{ failures: readonly CriterionFailure[]; link: RecordsLink }>();
const SHOWN = 8;
const wide = ref(false);
const shown = computed(() => (wide.value ? props.failures : props.failures.slice(0, SHOWN)));
const most = computed(() => Math.max(1, ...props.failures.map((f) => f.pointsLost)));
</script>

<template>
  <p v-if="failures.length === 0" class="soft">Nothing failed yet.</p>
  <table v-else class="plain">
    <thead>
      <tr>
        <th>Criterion</th>
        <th>Skill</th>
        <th class="n">Failed</th>
        <th class="n">Points lost</th>
        <th class="bar" />
        <th>What went wrong</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="f in shown" :key="f.criterionId" :data-failure="f.criterionId.split('/').pop()">
        <td>
          {{ f.label }}<span v-if="f.critical" class="small soft"> critical</span>
          <span class="small soft step">{{ f.stepTitle }}</span>
        </td>
        <td>{{ SKILL_WORDS[f.skill] }}</td>
        <td class="n">
          <RouterLink :to="link({ criterion: f.criterionId, criterionLabel: f.label })">{{
            f.failed
          }}</RouterLink>
        </td>
        <td class="n">{{ f.pointsLost }}</td>
        <td class="bar"><span class="fill" :style="{ width: `${(100 * f.pointsLost) / most}%` }" /></td>
        <td class="small soft">{{ f.faults.map((x) => `${faultWords(x.code)} ${x.times}`).join(', ') }}</td>
      </tr>
    </tbody>
  </table>
  <button v-if="failures.length > SHOWN" class="act quiet" type="button" @click="wide = !wide">
    {{ wide ? 'Show fewer' : `Show all ${failures.length}` }}
  </button>
</template>

<style scoped>
.step {
  display: block;
}
.bar {
  width: 150px;
}
.fill {
  display: block;
  height: 12px;
  background: var(--glass);
  min-width: 2px;
}
</style>
