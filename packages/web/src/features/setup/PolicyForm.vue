<script setup lang="ts">
import { COMPETENCE_RULES, type Policy } from '@clear-mark/core';
import { computed, reactive, ref, watch } from 'vue';
import { request, ROUTES } from '../../api/client.ts';
import { v7 } from 'uuid';
import { useAct, useReply } from '../../api/queries.ts';
import { useSession } from '../../session/session.ts';
import ChoiceField from '../../shared/ChoiceField.vue';
import { OWN_SOURCE } from '../../shared/own-source.ts';
import { tablesOf } from '../../shared/school-tables.ts';
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
const session = useSession();

async function keep(body: Policy, before: Policy): Promise<void> {
  const params = { id: props.classId };
  if (!(await act(() => request(ROUTES.setPolicy, { params, body })))) return;
  emit('changed');
  offerUndo('Kept. Standings follow it from now on; signed outcomes stay.', () => keep(before, body));
}
const { found, again } = useReply(ROUTES.schoolTables, () => ({}));
const policies = computed(() => tablesOf(found.value, 'policy'));
/** The policy of the school that the form began from. */
const takenId = ref('');
const taken = computed(() => policies.value.find((t) => t.id === takenId.value) ?? null);
function take(id: string): void {
  takenId.value = id;
  const policy = taken.value?.content.policy;
  if (policy) Object.assign(form, policy, typed(policy));
}
const name = ref('');
/** Kept for other classes: the next version of the one that was taken, or a new one by its name. */
async function keepForSchool(before: (typeof policies.value)[number] | null): Promise<void> {
  const source = before?.content.source ?? OWN_SOURCE;
  const content = { policy: { ...asked.value }, source };
  const id = before?.id ?? v7();
  const title = before?.title ?? name.value.trim();
  const body = {
    from: before?.version ?? 0,
    retired: false,
    table: { kind: 'policy' as const, title, content },
  };
  if (!(await act(() => request(ROUTES.saveSchoolTable, { params: { id }, body })))) return;
  await again();
  takenId.value = id;
  name.value = '';
}
const save = (): void => {
  if (!problem.value) void keep({ ...asked.value }, { ...props.policy });
};
</script>

<template>
  <section class="section">
    <h2>Competence policy</h2>
    <ChoiceField
      v-if="policies.length > 0"
      label="Begin from a policy of the school"
      none="none"
      :model-value="takenId"
      :options="policies.map((t) => ({ value: t.id, label: `${t.title}, version ${t.version}` }))"
      data-test="take-policy"
      @change="take"
    />
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
    <div v-if="session.me?.role === 'lead'" class="row for-school">
      <el-button v-if="taken" size="large" :disabled="busy || problem !== null" @click="keepForSchool(taken)"
        >Save {{ taken.title }} as version {{ taken.version + 1 }}</el-button
      >
      <el-input
        v-model="name"
        size="large"
        class="name"
        aria-label="Name of a policy of the school"
        placeholder="Name for other classes"
        maxlength="80"
      />
      <el-button
        size="large"
        :disabled="busy || problem !== null || name.trim() === ''"
        @click="keepForSchool(null)"
        >Save for other classes</el-button
      >
    </div>
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
.for-school {
  margin: 10px 0;
  flex-wrap: wrap;
}
.name {
  width: 260px;
}
</style>
