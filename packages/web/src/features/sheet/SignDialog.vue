<script setup lang="ts">
import type { Outcome } from '@clear-mark/core';
import { reasonWords, VERDICT_WORDS } from '@clear-mark/words';
import { computed, ref } from 'vue';
import VerdictRing from '../../shared/VerdictRing.vue';
import type { SheetCriterion } from './sheet.model.ts';

const props = defineProps<{
  ifSigned: Outcome;
  criteria: readonly SheetCriterion[];
  pending: number;
  trainee: string;
  failure: string | null;
}>();
const emit = defineEmits<{ close: []; sign: [reason: string | null, asVoid: boolean] }>();

const reason = ref('');
const asVoid = ref(false);
const labelOf = (id: string): string =>
  props.criteria.find((c) => c.criterion.id === id)?.criterion.label ?? id;
const needsReason = computed(() => asVoid.value || props.ifSigned.verdict === 'incomplete');
const blocked = computed(() => {
  if (props.pending > 0) return `${props.pending} entries are still on their way to the server.`;
  if (props.ifSigned.conflicts.length > 0 && !asVoid.value) {
    return `Choose one result first: ${props.ifSigned.conflicts.map(labelOf).join(', ')}.`;
  }
  return null;
});
const can = computed(() => blocked.value === null && (!needsReason.value || reason.value.trim() !== ''));
function sign(): void {
  if (can.value) emit('sign', reason.value.trim() === '' ? null : reason.value.trim(), asVoid.value);
}
</script>

<template>
  <el-dialog :model-value="true" :title="`Sign ${trainee}`" width="560" append-to-body @close="emit('close')">
    <div class="row verdict">
      <VerdictRing :verdict="asVoid ? 'void' : ifSigned.verdict" :share="ifSigned.share" :size="72" />
      <div>
        <p class="figure">{{ VERDICT_WORDS[asVoid ? 'void' : ifSigned.verdict] }}</p>
        <p class="soft">{{ ifSigned.points.earned }} of {{ ifSigned.points.possible }} points</p>
      </div>
    </div>
    <ul v-if="!asVoid && ifSigned.reasons.length > 0">
      <li v-for="(r, i) in ifSigned.reasons" :key="i">{{ reasonWords(r, labelOf) }}</li>
    </ul>
    <p v-if="!asVoid && ifSigned.missing.length > 0" class="soft">
      Without a result: {{ ifSigned.missing.map(labelOf).join(', ') }}
    </p>
    <el-checkbox v-model="asVoid" size="large" class="long">
      Make the whole attempt void (a tool failed, wrong method). It leaves every rate and stays visible.
    </el-checkbox>
    <label v-if="needsReason" class="field">
      <span>{{ asVoid ? 'Why it is void' : 'Why it is signed incomplete' }}</span>
      <el-input v-model="reason" maxlength="400" data-test="sign-reason" />
    </label>
    <p v-if="blocked" class="notice">{{ blocked }}</p>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <div class="row foot">
      <el-button size="large" type="primary" data-test="sign-now" :disabled="!can" @click="sign">
        Sign now
      </el-button>
      <el-button size="large" @click="emit('close')">Not yet</el-button>
    </div>
  </el-dialog>
</template>

<style scoped>
.verdict {
  gap: 16px;
}
.foot {
  margin-top: 16px;
}
</style>
