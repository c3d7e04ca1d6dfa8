<script setup lang="ts">
import type { CriterionFailure, FailingTogether, Differences } from '@clear-mark/contract';
import { faultWords, skillWords } from '@clear-mark/words';
import { computed, ref } from 'vue';
import type { RecordsLink } from '../records-link.ts';

const props = defineProps<{
  failures: readonly CriterionFailure[];
  pieces: FailingTogether['pieces'];
  /** Trainees who fail a criterion beyond the others. */
  who: Differences['criteria'];
  link: RecordsLink;
}>();
const lost = (id: string) => props.pieces.find((p) => p.criterionId === id);
const piecesLost = (f: CriterionFailure): number => lost(f.criterionId)?.failedPieces ?? 0;
interface Line {
  row: CriterionFailure;
}
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
  <el-table v-else :data="shown as CriterionFailure[]" row-key="criterionId">
    <el-table-column prop="label" label="Criterion" sortable min-width="230">
      <template #default="{ row: f }: Line">
        <span :data-failure="f.criterionId.split('/').pop()">{{ f.label }}</span
        ><span v-if="f.critical" class="small soft"> critical</span>
        <span class="small soft step">{{ f.stepTitle }}</span>
      </template>
    </el-table-column>
    <el-table-column prop="skill" label="Skill" sortable width="130">
      <template #default="{ row: f }: Line">{{ skillWords(f.skill) }}</template>
    </el-table-column>
    <el-table-column prop="failed" label="Failed" sortable align="right" width="110">
      <template #default="{ row: f }: Line">
        <RouterLink :to="link({ criterion: f.criterionId, criterionLabel: f.label })">{{
          f.failed
        }}</RouterLink>
      </template>
    </el-table-column>
    <el-table-column prop="pointsLost" label="Points lost" sortable width="200">
      <template #default="{ row: f }: Line">
        <span class="points">
          <span class="fill" :style="{ width: `${(100 * f.pointsLost) / most}px` }" />{{ f.pointsLost }}
        </span>
      </template>
    </el-table-column>
    <el-table-column label="Pieces lost" align="right" width="140" sortable :sort-by="piecesLost">
      <template #default="{ row: f }: Line">
        {{ piecesLost(f)
        }}<span v-if="(lost(f.criterionId)?.aloneIn ?? 0) > 0" class="small soft step"
          >{{ lost(f.criterionId)!.aloneIn }} by it alone</span
        >
      </template>
    </el-table-column>
    <el-table-column label="What went wrong" min-width="280">
      <template #default="{ row: f }: Line">
        <RouterLink
          v-for="w in who.filter((x) => x.criterionId === f.criterionId)"
          :key="w.traineeId"
          class="step small"
          :to="link({ criterion: f.criterionId, criterionLabel: f.label, trainee: w.traineeId })"
          >{{ w.traineeName }}: {{ w.failed }} of {{ w.n }}, {{ (100 * w.expected).toFixed(0) }} %
          expected</RouterLink
        >
        <span class="soft small">{{
          f.faults.map((x) => `${faultWords(x.code)} ${x.times}`).join(', ')
        }}</span>
      </template>
    </el-table-column>
  </el-table>
  <el-button v-if="failures.length > shown.length || wide" size="large" text @click="wide = !wide">
    {{ wide ? 'Show fewer' : `Show all ${failures.length}` }}
  </el-button>
</template>

<style scoped>
.step {
  display: block;
}
.points {
  display: flex;
  align-items: center;
  gap: 8px;
}
.fill {
  display: block;
  height: 12px;
  background: var(--glass);
  min-width: 2px;
}
</style>
