<script setup lang="ts">
import {
  type Call,
  type FaceCriteria,
  type GradedFace,
  isNearLimit,
  passProbability,
  type ReviewedFace,
} from '@clear-mark/core';
import { allowedWords, breachWords, nearLimitWords } from '@clear-mark/words';
import { computed, ref } from 'vue';
import VerdictRing from '../../../shared/VerdictRing.vue';
import { CORE_WORDS } from '../face-words.ts';

/** Engine, instructor and trainee side by side, and for each zone the rule that decided. */
const props = defineProps<{
  face: GradedFace;
  table: FaceCriteria;
  reviewed: ReviewedFace;
  traineeSaid: Call | null;
  override: { readonly says: Call; readonly reason: string } | null;
}>();
const emit = defineEmits<{
  trainee: [said: Call | null];
  override: [verdict: { says: Call; reason: string } | null];
}>();
type Zone = ReviewedFace['grade']['zones'][number];
const asking = ref(false);
const reason = ref('');
const other = computed((): Call => (props.reviewed.grade.verdict === 'pass' ? 'fail' : 'pass'));

function decide(): void {
  if (reason.value.trim() === '') return;
  emit('override', { says: other.value, reason: reason.value.trim() });
  asking.value = false;
  reason.value = '';
}
const zoneWords = (i: number): string => {
  const zone = props.reviewed.grade.zones[i]!;
  if (zone.breaches.length > 0) {
    return zone.breaches.map((b) => breachWords(b, props.reviewed.features)).join('; ');
  }
  const rule = props.table.zones[i]!;
  const counted = allowedWords(zone.features.length);
  if (rule.zone === 'D' && props.face.contactSeen < 0.995) {
    return `${counted}; ${Math.round(props.face.contactSeen * 100)} % of the zone is in the picture`;
  }
  return counted;
};
/** How probable it is that the face passes, by what the picture shows of the features that count. */
const chance = computed(() => passProbability(props.reviewed.features, props.table));
const isNear = computed(() => props.override === null && isNearLimit(chance.value));
const misfit = computed(() => {
  const { core } = props.face;
  if (core.class === 'unlit') return null;
  const wants = props.table.id.endsWith('mm') ? 'multimode' : 'single_mode';
  return core.class.startsWith(wants)
    ? null
    : `The picture shows a ${CORE_WORDS[core.class]}: are these the right criteria?`;
});
</script>

<template>
  <div class="three">
    <div>
      <span class="soft small">Engine</span>
      <VerdictRing :verdict="face.grade.verdict" :size="34" word data-test="face-verdict" />
    </div>
    <div>
      <span class="soft small">Instructor</span>
      <VerdictRing :verdict="reviewed.verdict" :size="34" word data-test="instructor-verdict" />
    </div>
    <div>
      <span class="soft small">Trainee says</span>
      <span class="row said">
        <el-button
          v-for="c in ['pass', 'fail'] as const"
          :key="c"
          size="large"
          :aria-pressed="traineeSaid === c"
          :aria-label="`Trainee says ${c}`"
          @click="emit('trainee', traineeSaid === c ? null : c)"
        >
          {{ c === 'pass' ? 'Pass' : 'Fail' }}
        </el-button>
      </span>
    </div>
  </div>
  <p v-if="traineeSaid !== null && traineeSaid !== reviewed.verdict" class="notice" data-test="missed">
    {{
      traineeSaid === 'pass'
        ? 'A miss: a bad face was called good.'
        : 'A false alarm: a good face was called bad.'
    }}
  </p>
  <p v-if="isNear" class="notice" data-test="near-limit">{{ nearLimitWords(chance) }}</p>
  <p v-if="misfit" class="notice">{{ misfit }}</p>
  <el-table :data="[...reviewed.grade.zones]" row-key="zone" :show-header="false" class="zones">
    <el-table-column width="42">
      <template #default="{ row: z }: { row: Zone }"><b class="zone">{{ z.zone }}</b></template>
    </el-table-column>
    <el-table-column width="120">
      <template #default="{ row: z }: { row: Zone }"
        ><VerdictRing :verdict="z.verdict" :size="22" word
      /></template>
    </el-table-column>
    <el-table-column>
      <template #default="{ row: z, $index: i }: { row: Zone; $index: number }"
        ><span :data-zone="z.zone">{{ zoneWords(i) }}</span></template
      >
    </el-table-column>
  </el-table>
  <p v-if="override" class="row">
    <span>You decided <b>{{ override.says }}</b>: {{ override.reason }}</span>
    <el-button size="large" @click="emit('override', null)">Take back</el-button>
  </p>
  <div v-else-if="asking" class="ask">
    <label>
      <span>Why is it a {{ other }}?</span>
      <el-input v-model="reason" maxlength="200" @keydown.enter="decide" />
    </label>
    <div class="row">
      <el-button size="large" type="primary" :disabled="reason.trim() === ''" @click="decide">
        It is a {{ other }}
      </el-button>
      <el-button size="large" @click="asking = false">Cancel</el-button>
    </div>
  </div>
  <el-button v-else size="large" text class="over" @click="asking = true">Decide otherwise</el-button>
</template>

<style scoped>
.three {
  display: grid;
  grid-template-columns: auto auto 1fr;
  gap: 4px 22px;
  align-items: start;
}
.three > div {
  display: grid;
  gap: 2px;
  min-height: 64px;
  align-content: start;
}
.three :deep(.word) {
  font-size: 1.375rem;
}
.said {
  gap: 6px;
}
.said .el-button {
  padding: 0 10px;
}
.zones .zone {
  font-size: 1.125rem;
}
.over {
  margin-left: -14px;
  color: var(--accent);
  text-decoration: underline;
}
.ask {
  display: grid;
  gap: 8px;
  margin-top: 8px;
}
.ask label {
  display: grid;
  gap: 2px;
}
</style>
