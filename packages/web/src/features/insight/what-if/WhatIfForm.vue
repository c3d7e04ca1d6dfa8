<script setup lang="ts">
import type { WhatIfSetting } from '@clear-mark/contract';
import {
  checkPolicy,
  COMPETENCE_RULES,
  type CompetenceRule,
  DomainError,
  type Policy,
} from '@clear-mark/core';
import { errorWords } from '@clear-mark/words';
import { isErrorCode } from '@clear-mark/contract';
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { type MovableLimit, typedNumber } from './what-if.model.ts';
import ChoiceField from '../../../shared/ChoiceField.vue';

/** One setting to score by: what is left empty stays as it is. */
const props = defineProps<{ limits: readonly MovableLimit[]; policy: Policy }>();
const setting = defineModel<WhatIfSetting>({ required: true });
const emit = defineEmits<{ bad: [bad: boolean] }>();
const route = useRoute();
const router = useRouter();
/** What was typed stands in the address, so that a question can be sent to somebody. */
const typed = (name: string) => ref(String(route.query[`${setting.value.label}-${name}`] ?? ''));
const criterionId = typed('limit');
const rule = typed('rule');
const min = typed('min');
const max = typed('max');
const passMark = typed('mark');
const inARow = typed('row');
const sharePasses = typed('passes');
const shareOf = typed('of');
const fails = typed('fails');
const inAddress = {
  limit: criterionId,
  rule,
  min,
  max,
  mark: passMark,
  row: inARow,
  passes: sharePasses,
  of: shareOf,
  fails,
};
watch(Object.values(inAddress), () => {
  const query = { ...router.currentRoute.value.query };
  for (const [name, { value }] of Object.entries(inAddress)) {
    const key = `${setting.value.label}-${name}`;
    if (value === '') delete query[key];
    else query[key] = value;
  }
  void router.replace({ query });
});
const limit = computed(() => props.limits.find((l) => l.criterionId === criterionId.value));
const asked = computed((): Asked => {
  const numbers = [min, max, passMark, inARow, sharePasses, shareOf, fails].map((r) => typedNumber(r.value));
  const [low, high, mark, row, passes, of, failing] = numbers as (number | null)[];
  const moves = {
    ...(rule.value === '' ? {} : { competentBy: rule.value as CompetenceRule }),
    ...(row === null ? {} : { passesInARow: row! }),
    ...(passes === null ? {} : { sharePasses: passes! }),
    ...(of === null ? {} : { shareOf: of! }),
    ...(failing === null ? {} : { failsInARow: failing! }),
  };
  return {
    bad: numbers.some((n) => Number.isNaN(n)),
    low: low!,
    high: high!,
    mark: mark!,
    policy: Object.keys(moves).length === 0 ? null : { ...props.policy, ...moves },
  };
});
interface Asked {
  readonly bad: boolean;
  readonly low: number | null;
  readonly high: number | null;
  readonly mark: number | null;
  readonly policy: Policy | null;
}
const problem = computed((): string | null => {
  const { bad, low, high, mark, policy } = asked.value;
  if (bad) return 'That is not a number.';
  if (mark !== null && (mark < 0 || mark > 100)) return errorWords('what_if.bad_pass_mark');
  if (low !== null && high !== null && low > high) return errorWords('what_if.bad_limit');
  try {
    if (policy) checkPolicy(policy);
    return null;
  } catch (error) {
    if (error instanceof DomainError && isErrorCode(error.code)) return errorWords(error.code, error.params);
    throw error;
  }
});
watch(
  [asked, limit],
  () => {
    emit('bad', problem.value !== null);
    if (problem.value !== null) return;
    const { low, high, mark, policy } = asked.value;
    const moved = limit.value !== undefined && (low !== null || high !== null);
    setting.value = {
      label: setting.value.label,
      passMark: mark,
      policy,
      limit: moved ? { criterionId: criterionId.value, min: low, max: high } : null,
    };
  },
  { immediate: true },
);
const RULES: Readonly<Record<CompetenceRule, string>> = {
  in_a_row: 'passes in a row',
  share: 'a share of the last',
  chart: 'the chart of learning',
};
const shown = computed(() => (rule.value === '' ? props.policy.competentBy : rule.value));
const endWords = (end: number | null): string => (end === null ? 'none' : String(end));
</script>

<template>
  <fieldset :data-setting="setting.label">
    <legend>
      <b>{{ setting.label }}</b>
    </legend>
    <ChoiceField
      v-model="criterionId"
      label="Limit to move"
      none="none"
      :options="limits.map((l) => ({ value: l.criterionId, label: l.label }))"
    />
    <div v-if="limit" class="row ends">
      <label v-if="limit.unit !== 'dB'" class="field"
        ><span>at least, {{ limit.unit }} (is {{ endWords(limit.min) }})</span
        ><el-input v-model="min" inputmode="decimal" name="min"
      /></label>
      <label class="field"
        ><span
          >at most, {{ limit.unit }}
          {{ limit.max === null ? '(is the sum of its parts)' : `(is ${limit.max})` }}</span
        ><el-input v-model="max" inputmode="decimal" name="max"
      /></label>
    </div>
    <div class="row ends">
      <label class="field"
        ><span>Pass mark, %</span><el-input v-model="passMark" inputmode="decimal" name="pass-mark"
      /></label>
      <label class="field"
        ><span>Fails in a row to retrain (is {{ policy.failsInARow }})</span
        ><el-input v-model="fails" inputmode="numeric" name="fails"
      /></label>
    </div>
    <div class="row ends">
      <ChoiceField
        v-model="rule"
        label="What shows competence"
        none="as it is"
        :options="COMPETENCE_RULES.map((r) => ({ value: r as string, label: RULES[r] }))"
      />
      <label v-if="shown === 'in_a_row'" class="field"
        ><span>Passes in a row (is {{ policy.passesInARow }})</span
        ><el-input v-model="inARow" inputmode="numeric" name="in-a-row"
      /></label>
      <template v-if="shown === 'share'">
        <label class="field"
          ><span>Passes (is {{ policy.sharePasses }})</span
          ><el-input v-model="sharePasses" inputmode="numeric" name="share-passes"
        /></label>
        <label class="field"
          ><span>of the last (is {{ policy.shareOf }})</span
          ><el-input v-model="shareOf" inputmode="numeric" name="share-of"
        /></label>
      </template>
    </div>
    <p v-if="problem" class="notice bad" role="alert">{{ problem }}</p>
  </fieldset>
</template>

<style scoped>
fieldset {
  border: 1px solid var(--hair);
  border-radius: var(--round);
  padding: 8px 14px 14px;
  min-width: 0;
  display: grid;
  gap: 10px;
  align-content: start;
}
.ends .field {
  flex: 1;
  min-width: 130px;
}
</style>
