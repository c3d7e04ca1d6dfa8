<script setup lang="ts">
import type { CriterionFailure, FailingTogether, Differences } from '@clear-mark/contract';
import { faultWords, SKILL_WORDS } from '@clear-mark/words';
import { computed, ref } from 'vue';
import type { RecordsLink } from './records-link.ts';

const props = defineProps<{
  failures: readonly CriterionFailure[];
  pieces: FailingTogether['pieces'];
  /** Trainees who fail a criterion beyond the others. */
  who: Differences['criteria'];
  link: RecordsLink;
}>();
const lost = (id: string) => props.pieces.find((p) => p.criterionId === id);
const SHOWN = 8;
const wide = ref(false);
/** Those that somebody fails beyond the others are always among the shown. */
const shown = computed(() =>
  wide.value
    ? props.failures
    : props.failures.filter((f, i) => i < SHOWN || props.who.some((w) => w.criterionId === f.criterionId)),
);
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
        <th class="n lost">Pieces lost</th>
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
        <td class="n">
          {{ lost(f.criterionId)?.failedPieces ?? 0
          }}<span v-if="(lost(f.criterionId)?.aloneIn ?? 0) > 0" class="small soft step"
            >{{ lost(f.criterionId)!.aloneIn }} by it alone</span
          >
        </td>
        <td class="small">
          <RouterLink
            v-for="w in who.filter((x) => x.criterionId === f.criterionId)"
            :key="w.traineeId"
            class="step"
            :to="link({ criterion: f.criterionId, criterionLabel: f.label, trainee: w.traineeId })"
            >{{ w.traineeName }}: {{ w.failed }} of {{ w.n }}, {{ (100 * w.expected).toFixed(0) }} %
            expected</RouterLink
          >
          <span class="soft">{{ f.faults.map((x) => `${faultWords(x.code)} ${x.times}`).join(', ') }}</span>
        </td>
      </tr>
    </tbody>
  </table>
  <el-button v-if="failures.length > shown.length || wide" size="large" text @click="wide = !wide">
    {{ wide ? 'Show fewer' : `Show all ${failures.length}` }}
  </el-button>
</template>

<style scoped>
.step {
  display: block;
}
.lost {
  min-width: 112px;
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
