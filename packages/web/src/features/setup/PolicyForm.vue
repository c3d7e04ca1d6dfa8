<script setup lang="ts">
import { COMPETENCE_RULES, type Policy } from '@clear-mark/core';
import { computed, reactive, watch } from 'vue';
import { request, ROUTES } from '../../api/client.ts';
import { useAct } from '../../api/queries.ts';
import { offerUndo } from '../../shared/undo.ts';
import PolicyOperating from './PolicyOperating.vue';
import { type NumberField, POLICY_FIELDS, policyProblem, RULE_WORDS, typedPolicy } from './policy.model.ts';

const props = defineProps<{ classId: string; policy: Policy }>();
const emit = defineEmits<{ changed: [] }>();
const typed = (policy: Policy) =>
  Object.fromEntries(POLICY_FIELDS.map((f) => [f.key, String(policy[f.key])])) as Record<NumberField, string>;
const form = reactive({ ...props.policy, ...typed(props.policy) });
watch(
  () => props.policy,
  (now) => Object.assign(form, now, typed(now)),
);
/** The policy that the form shows, kept or not. */
const asked = computed((): Policy => typedPolicy(form));
const parts = computed(() => [
  { title: 'What shows competence', fields: POLICY_FIELDS.filter((f) => f.part === form.competentBy) },
  { title: 'What asks for more', fields: POLICY_FIELDS.filter((f) => f.part === 'asks') },
  { title: 'The charts', fields: POLICY_FIELDS.filter((f) => f.part === 'charts') },
]);
const problem = computed(() => policyProblem(asked.value));
const { failure, busy, act } = useAct();

async function keep(body: Policy, before: Policy): Promise<void> {
  const params = { id: props.classId };
  if (!(await act(() => request(ROUTES.setPolicy, { params, body })))) return;
  emit('changed');
  offerUndo('Kept. Standings follow it from now on; signed outcomes stay.', () => keep(before, body));
}
const save = (): void => {
  if (!problem.value) void keep({ ...asked.value }, { ...props.policy });
};
</script>

<template>
  <section class="section">
    <h2>Competence policy</h2>
    <el-form label-position="top" size="large" hide-required-asterisk @submit.prevent="save">
      <fieldset v-for="part in parts" :key="part.title">
        <legend>{{ part.title }}</legend>
        <div v-if="part.title === 'What shows competence'" class="row rules" role="group" aria-label="Rule">
          <el-button
            v-for="r in COMPETENCE_RULES"
            :key="r"
            size="large"
            :aria-pressed="form.competentBy === r"
            @click="form.competentBy = r"
          >
            {{ RULE_WORDS[r].title }}
          </el-button>
          <p class="soft small why">{{ RULE_WORDS[form.competentBy].why }}</p>
        </div>
        <div class="form">
          <el-form-item
            v-for="f in part.fields"
            :key="f.key"
            :label="f.label"
            :error="problem?.field === f.key ? problem.words : ''"
          >
            <el-input v-model="form[f.key]" :inputmode="f.decimal ? 'decimal' : 'numeric'" />
            <span v-if="problem?.field !== f.key" class="soft small">{{ f.why }}</span>
          </el-form-item>
          <template v-if="part.title === 'What asks for more'">
            <el-checkbox v-model="form.stopRetrains" size="large" class="long"
              >A stop breach asks for retraining until it is cleared</el-checkbox
            >
            <el-checkbox v-model="form.marginalPassCounts" size="large" class="long"
              >A marginal pass counts as a pass</el-checkbox
            >
            <el-checkbox v-model="form.marginalFailCounts" size="large" class="long"
              >A marginal fail counts as a pass</el-checkbox
            >
          </template>
          <el-checkbox
            v-if="part.title === 'The charts'"
            v-model="form.chartRetrains"
            size="large"
            class="long"
            >The chart asks for retraining when the work gets worse</el-checkbox
          >
        </div>
      </fieldset>
      <p v-if="problem && problem.field === null" class="notice bad" role="alert">{{ problem.words }}</p>
      <el-button size="large" type="primary" native-type="submit" :disabled="problem !== null" :loading="busy"
        >Save the policy</el-button
      >
    </el-form>
    <PolicyOperating :policy="asked" />
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
  </section>
</template>

<style scoped>
fieldset {
  border: 0;
  border-top: 1px solid var(--hair);
  margin: 10px 0 0;
  padding: 10px 0 12px;
}
legend {
  font-weight: 700;
  padding: 0 10px 0 0;
}
.form {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(300px, 1fr));
  gap: 12px 20px;
  align-items: start;
  margin-top: 8px;
}
.why {
  flex-basis: 100%;
}
</style>
