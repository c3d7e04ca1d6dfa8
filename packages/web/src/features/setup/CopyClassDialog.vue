<script setup lang="ts">
import { dayIn, daysAfter } from '@clear-mark/core';
import { type ClassPart, type ClassSummary, CopyClassBody } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { useRouter } from 'vue-router';
import { request, ROUTES } from '../../api/client.ts';
import { useSession } from '../../session/session.ts';
import ClassDays from './ClassDays.vue';
import CheckedForm from '../../shared/CheckedForm.vue';
import { useForm } from '../../shared/use-form.ts';
import TextField from '../../shared/TextField.vue';

/** A new class like an earlier one: what of it is taken is chosen, the rest begins empty. */
const props = defineProps<{ from: ClassSummary }>();
const emit = defineEmits<{ close: [] }>();
const session = useSession();
const router = useRouter();
const { from } = props;
const PARTS: readonly { readonly value: ClassPart; readonly label: string }[] = [
  { value: 'methods', label: 'Methods in use, with the answers to their questions' },
  { value: 'equipment', label: 'Benches, tools and instruments in use' },
  { value: 'policy', label: 'Competence policy' },
  { value: 'people', label: 'Trainees with their groups' },
];
const today = dayIn(from.timeZone, new Date());
const after = daysAfter(from.endsOn, 1);
/** After the earlier one, and not in the past. */
const startsOn = after > today ? after : today;
const parts: ClassPart[] = ['methods', 'equipment', 'policy'];
const checked = useForm(
  CopyClassBody,
  { id: v7(), name: '', startsOn, endsOn: daysAfter(startsOn, 28), parts },
  { 'class.dates_crossed': 'endsOn' },
);
const { values, refused, failure, busy, send } = checked;
const make = (): Promise<boolean> =>
  send(async (body) => {
    const made = await request(ROUTES.copyClass, { params: { id: from.id }, body });
    await session.refresh();
    await router.push({ name: 'setup', params: { classId: made.id } });
  });
</script>

<template>
  <el-dialog
    model-value
    :title="`A class like ${from.name}`"
    width="min(560px, 94vw)"
    align-center
    data-test="copy-class"
    @close="emit('close')"
  >
    <CheckedForm :of="checked" @send="make">
      <TextField v-model="values.name" prop="name" label="Name" name="copy-name" />
      <div class="days">
        <ClassDays
          v-model:starts-on="values.startsOn"
          v-model:ends-on="values.endsOn"
          :refused="refused['endsOn']"
        />
      </div>
      <el-form-item prop="parts" label="What it takes">
        <el-checkbox-group v-model="values.parts" class="parts">
          <el-checkbox v-for="p in PARTS" :key="p.value" :value="p.value" size="large" :label="p.label" />
        </el-checkbox-group>
      </el-form-item>
    </CheckedForm>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <template #footer>
      <el-button size="large" @click="emit('close')">Cancel</el-button>
      <el-button size="large" type="primary" :loading="busy" @click="make">Make the class</el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
.days {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 14px;
}
.days :deep(.el-date-editor) {
  width: 100%;
}
.parts {
  display: grid;
}
</style>
