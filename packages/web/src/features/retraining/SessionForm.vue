<script setup lang="ts">
import { type PlanSession, PlanSessionBody } from '@clear-mark/contract';
import CheckedForm from '../../shared/CheckedForm.vue';
import { typedNumber, useForm } from '../../shared/use-form.ts';
import { instantAt, wallTime } from '../../shared/wall-time.ts';

/** When and where retraining takes place, and for how long. */
const props = defineProps<{ session: PlanSession; save: (session: PlanSession) => Promise<unknown> }>();
const emit = defineEmits<{ leave: [] }>();
const { startsAt, minutes, place } = props.session;
const Typed = PlanSessionBody.extend({ minutes: typedNumber(PlanSessionBody.shape.minutes) });
const checked = useForm(Typed, {
  startsAt,
  minutes: String(minutes),
  place,
});
const { values, failure, busy, send } = checked;
const keep = (): Promise<boolean> => send((body) => props.save({ id: props.session.id, ...body }));
</script>

<template>
  <CheckedForm :of="checked" class="form" aria-label="Session" @send="keep">
    <el-form-item prop="startsAt" label="Starts">
      <el-date-picker
        type="datetime"
        format="D MMM YYYY, HH:mm"
        :clearable="false"
        name="starts"
        value-format="YYYY-MM-DDTHH:mm"
        :model-value="values.startsAt && wallTime(values.startsAt)"
        @update:model-value="(at: string | null) => (values.startsAt = at ? instantAt(at) : '')"
      />
    </el-form-item>
    <el-form-item prop="minutes" label="Minutes">
      <el-input v-model="values.minutes" inputmode="numeric" name="minutes" />
    </el-form-item>
    <el-form-item prop="place" label="Where" class="grow">
      <el-input v-model="values.place" name="place" />
    </el-form-item>
    <div class="row acts">
      <el-button size="large" type="primary" native-type="submit" :loading="busy">Save the session</el-button>
      <el-button size="large" text @click="emit('leave')">Cancel</el-button>
    </div>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
  </CheckedForm>
</template>

<style scoped>
.form {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  align-items: flex-start;
  padding: 12px 0;
}
.form :deep(.el-date-editor) {
  --el-date-editor-width: 260px;
}
.grow {
  flex: 1;
  min-width: 200px;
}
.acts {
  margin-top: 28px;
}
</style>
