<script setup lang="ts">
import { COMPETENCE_RULES, type Policy } from '@clear-mark/core';
import { computed, reactive, ref, watch } from 'vue';
import { request, ROUTES, wordsOf } from '../../api/client.ts';
import PolicyOperating from './PolicyOperating.vue';
import { type NumberField, POLICY_FIELDS, RULE_WORDS, typedPolicy } from './policy.model.ts';

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
const failure = ref<string | null>(null);
const saved = ref(false);

async function save(): Promise<void> {
  failure.value = null;
  saved.value = false;
  try {
    await request(ROUTES.setPolicy, { params: { id: props.classId }, body: asked.value });
    saved.value = true;
    emit('changed');
  } catch (error) {
    failure.value = wordsOf(error);
  }
}
</script>

<template>
  <section class="section">
    <h2>Competence policy</h2>
    <form @submit.prevent="save">
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
          <label v-for="f in part.fields" :key="f.key" class="field">
            <span>{{ f.label }}</span>
            <el-input v-model="form[f.key]" :inputmode="f.decimal ? 'decimal' : 'numeric'" />
            <span class="soft small">{{ f.why }}</span>
          </label>
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
      <el-button size="large" type="primary" native-type="submit">Keep the policy</el-button>
    </form>
    <PolicyOperating :policy="asked" />
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <p v-if="saved" class="soft" role="status">
      Kept. Standings follow it from now on; signed outcomes stay.
    </p>
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
