<script setup lang="ts">
import type { WhatIfSetting } from '@clear-mark/contract';
import { checkPolicy, DomainError, type Policy } from '@clear-mark/core';
import { errorWords } from '@clear-mark/words';
import { isErrorCode } from '@clear-mark/contract';
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { type MovableLimit, typedNumber } from './what-if.model.ts';

/** One setting to score by: what is left empty stays as it is. */
const props = defineProps<{ limits: readonly MovableLimit[]; policy: Policy }>();
const setting = defineModel<WhatIfSetting>({ required: true });
const emit = defineEmits<{ bad: [bad: boolean] }>();
const route = useRoute();
const router = useRouter();
/** What was typed stands in the address, so that a question can be sent to somebody. */
const typed = (name: string) => ref(String(route.query[`${setting.value.label}-${name}`] ?? ''));
const criterionId = typed('limit');
const [min, max, passMark, inARow] = [typed('min'), typed('max'), typed('mark'), typed('row')];
watch([criterionId, min, max, passMark, inARow], ([limitId, low, high, mark, passes]) => {
  const own = { limit: limitId, min: low, max: high, mark, row: passes };
  const query = { ...router.currentRoute.value.query };
  for (const [name, text] of Object.entries(own)) {
    const key = `${setting.value.label}-${name}`;
    if (text === '') delete query[key];
    else query[key] = text!;
  }
  void router.replace({ query });
});
const limit = computed(() => props.limits.find((l) => l.criterionId === criterionId.value));

const numbers = computed(() => [min, max, passMark, inARow].map((r) => typedNumber(r.value)));
const problem = computed((): string | null => {
  if (numbers.value.some((n) => Number.isNaN(n))) return 'That is not a number.';
  const [low, high, mark, passes] = numbers.value as (number | null)[];
  if (mark !== null && mark !== undefined && (mark < 0 || mark > 100))
    return errorWords('what_if.bad_pass_mark');
  if (low !== null && high !== null && low! > high!) return errorWords('what_if.bad_limit');
  if (passes !== null) {
    try {
      checkPolicy({ ...props.policy, passesInARow: passes! });
    } catch (error) {
      if (error instanceof DomainError && isErrorCode(error.code))
        return errorWords(error.code, error.params);
      throw error;
    }
  }
  return null;
});
watch(
  [numbers, limit],
  () => {
    emit('bad', problem.value !== null);
    if (problem.value !== null) return;
    const [low, high, mark, passes] = numbers.value as (number | null)[];
    const moved = limit.value !== undefined && (low !== null || high !== null);
    setting.value = {
      label: setting.value.label,
      passMark: mark ?? null,
      limit: moved ? { criterionId: criterionId.value, min: low ?? null, max: high ?? null } : null,
      policy: passes === null ? null : { ...props.policy, passesInARow: passes! },
    };
  },
  { immediate: true },
);
const endWords = (end: number | null): string => (end === null ? 'none' : String(end));
</script>

<template>
  <fieldset :data-setting="setting.label">
    <legend>
      <b>{{ setting.label }}</b>
    </legend>
    <label class="field"
      ><span>Limit to move</span>
      <select v-model="criterionId" class="act">
        <option value="">none</option>
        <option v-for="l in limits" :key="l.criterionId" :value="l.criterionId">{{ l.label }}</option>
      </select>
    </label>
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
        ><span>Passes in a row (is {{ policy.passesInARow }})</span
        ><el-input v-model="inARow" inputmode="numeric" name="in-a-row"
      /></label>
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
select {
  max-width: 100%;
}
.ends .field {
  flex: 1;
  min-width: 150px;
}
</style>
