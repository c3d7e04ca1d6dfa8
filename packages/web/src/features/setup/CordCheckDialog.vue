<script setup lang="ts">
import { CORD_LOSS_DB, cordCheckState, readTyped } from '@clear-mark/core';
import type { Thing } from '@clear-mark/contract';
import { typedProblem } from '@clear-mark/words';
import { v7 } from 'uuid';
import { computed, reactive, ref } from 'vue';
import { request, ROUTES, wordsOf } from '../../api/client.ts';
import { useClassroom } from '../../classroom/use-classroom.ts';
import { checkProblem } from './cord-check.model.ts';
import { vFocus } from '../../shared/v-focus.ts';

/** A test cord's own loss on a day, what it may lose, and until when that holds. */
const props = defineProps<{ classId: string; cord: Thing }>();
const emit = defineEmits<{ close: []; changed: [] }>();
const classroom = useClassroom();
const form = reactive({
  lossDb: '',
  limitDb: props.cord.check?.limitDb ?? '0.5',
  checkedOn: classroom.today(),
  dueOn: classroom.today(),
});
const failure = ref<string | null>(null);
const saving = ref(false);
const tried = ref(false);
const problems = computed(() => ({
  loss: typedProblem(readTyped(form.lossDb, CORD_LOSS_DB), 'a loss', 'dB'),
  limit: typedProblem(readTyped(form.limitDb, { ...CORD_LOSS_DB, least: 0 }), 'a limit', 'dB'),
  days: checkProblem(form),
}));
const good = computed(() => Object.values(problems.value).every((p) => p === null));
const shown = (problem: string | null, text: string): string =>
  problem !== null && (tried.value || text !== '') ? problem : '';
const over = computed(
  () =>
    problems.value.loss === null &&
    problems.value.limit === null &&
    cordCheckState(form, form.checkedOn) === 'failed',
);

async function save(): Promise<void> {
  tried.value = true;
  if (!good.value) return;
  failure.value = null;
  saving.value = true;
  try {
    await request(ROUTES.addCordCheck, {
      params: { id: props.classId, thingId: props.cord.id },
      body: { id: v7(), ...form, lossDb: form.lossDb.trim(), limitDb: form.limitDb.trim() },
    });
    emit('changed');
    emit('close');
  } catch (error) {
    failure.value = wordsOf(error);
  } finally {
    saving.value = false;
  }
}
</script>

<template>
  <el-dialog
    :model-value="true"
    :title="`Check of ${cord.label}`"
    width="560"
    append-to-body
    @close="emit('close')"
  >
    <p class="soft">
      Read the cord by itself against a good one. A reading that is taken with it after the last day, or while
      it fails, is void.
    </p>
    <el-form label-position="top" size="large" class="fields" @submit.prevent="save">
      <el-form-item label="Its loss, dB" :error="shown(problems.loss, form.lossDb)">
        <el-input v-model="form.lossDb" v-focus inputmode="decimal" data-test="cord-loss" />
      </el-form-item>
      <el-form-item label="Limit, dB" :error="shown(problems.limit, form.limitDb)">
        <el-input v-model="form.limitDb" inputmode="decimal" data-test="cord-limit" />
      </el-form-item>
      <el-form-item label="Checked on" :error="problems.days ?? ''">
        <el-date-picker v-model="form.checkedOn" type="date" value-format="YYYY-MM-DD" :clearable="false" />
      </el-form-item>
      <el-form-item label="Holds until the end of">
        <el-date-picker v-model="form.dueOn" type="date" value-format="YYYY-MM-DD" :clearable="false" />
      </el-form-item>
    </el-form>
    <p v-if="over" class="notice bad">
      The cord fails: clean it and check again, or take it out of use. What is read with it is void.
    </p>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <template #footer>
      <el-button size="large" @click="emit('close')">Cancel</el-button>
      <el-button size="large" type="primary" :loading="saving" @click="save">Save the check</el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0 18px;
  margin-top: 12px;
}
.fields :deep(.el-date-editor) {
  width: 100%;
}
</style>
