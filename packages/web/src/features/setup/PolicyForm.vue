<script setup lang="ts">
import type { Policy } from '@clear-mark/core';
import { computed, reactive, ref, watch } from 'vue';
import { call, ROUTES, wordsOf } from '../../api/client.ts';
import PolicyOperating from './PolicyOperating.vue';

const props = defineProps<{ classId: string; policy: Policy }>();
const emit = defineEmits<{ changed: [] }>();
type Field = 'passesInARow' | 'failsInARow' | 'retrainAfter' | 'marginalInARow' | 'currencyMonths' | 'window';
const FIELDS: readonly { key: Field; label: string }[] = [
  { key: 'passesInARow', label: 'Passes in a row that show competence' },
  { key: 'failsInARow', label: 'Fails in a row that ask for retraining' },
  { key: 'retrainAfter', label: 'Not before this many outcomes' },
  { key: 'marginalInARow', label: 'Marginal passes in a row that put on watch' },
  { key: 'currencyMonths', label: 'Months without a pass until it lapses' },
  { key: 'window', label: 'Outcomes that the recent view looks at' },
];
const form = reactive({ ...props.policy });
watch(
  () => props.policy,
  (now) => Object.assign(form, now),
);
/** The policy that the form shows, kept or not. */
const asked = computed((): Policy => ({
  ...form,
  ...Object.fromEntries(FIELDS.map(({ key }) => [key, Number(form[key])])),
}));
const failure = ref<string | null>(null);
const saved = ref(false);

async function save(): Promise<void> {
  failure.value = null;
  saved.value = false;
  try {
    await call(ROUTES.setPolicy, { params: { id: props.classId }, body: asked.value });
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
    <form class="form" @submit.prevent="save">
      <label v-for="f in FIELDS" :key="f.key" class="field">
        <span>{{ f.label }}</span>
        <el-input v-model="form[f.key]" inputmode="numeric" />
      </label>
      <label class="row toggle"
        ><input v-model="form.marginalPassCounts" type="checkbox" /> A marginal pass counts as a pass</label
      >
      <label class="row toggle"
        ><input v-model="form.marginalFailCounts" type="checkbox" /> A marginal fail counts as a pass</label
      >
      <button class="act" type="submit">Keep the policy</button>
    </form>
    <PolicyOperating :policy="asked" />
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <p v-if="saved" class="soft" role="status">
      Kept. Standings follow it from now on; signed outcomes stay.
    </p>
  </section>
</template>

<style scoped>
.form {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(300px, 1fr));
  gap: 10px 20px;
  align-items: end;
  margin-top: 8px;
}
.toggle {
  min-height: var(--tap);
}
.toggle input {
  width: 22px;
  height: 22px;
  accent-color: var(--accent);
}
</style>
