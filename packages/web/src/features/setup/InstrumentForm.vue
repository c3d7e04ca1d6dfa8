<script setup lang="ts">
import {
  INSTRUMENT_KINDS,
  type Instrument,
  type InstrumentKind,
  InstrumentSetting,
  type Thing,
} from '@clear-mark/contract';
import { INSTRUMENT_WORDS } from '@clear-mark/words';
import { computed } from 'vue';
import { request, ROUTES } from '../../api/client.ts';
import { useAct } from '../../api/queries.ts';
import ChoiceField from '../../shared/ChoiceField.vue';
import CheckedForm from '../../shared/CheckedForm.vue';
import { useForm } from '../../shared/use-form.ts';

/** Where one instrument is, how often it is read, and until when it is calibrated. */
const props = defineProps<{ classId: string; thing: Thing; instrument: Instrument | null }>();
const emit = defineEmits<{ done: [] }>();
const kinds: readonly InstrumentKind[] =
  props.thing.kind === 'splicer' ? ['splicer'] : INSTRUMENT_KINDS.filter((k) => k !== 'splicer');
const { instrument } = props;
const checked = useForm(InstrumentSetting, {
  kind: instrument?.kind ?? kinds[0]!,
  host: instrument?.host ?? '',
  port: instrument?.port ?? 5025,
  readingsPerSecond: instrument?.readingsPerSecond ?? 5,
  calibratedOn: instrument?.calibratedOn ?? null,
  calibrationDueOn: instrument?.calibrationDueOn ?? null,
});
const { values, failure: unsaved, busy, send } = checked;
const dropping = useAct();
const failure = computed(() => unsaved.value ?? dropping.failure.value);
const params = computed(() => ({ id: props.classId, thingId: props.thing.id }));

async function save(): Promise<void> {
  if (await send((body) => request(ROUTES.setInstrument, { params: params.value, body }))) emit('done');
}
async function drop(): Promise<void> {
  if (await dropping.act(() => request(ROUTES.dropInstrument, { params: params.value }))) emit('done');
}
</script>

<template>
  <CheckedForm :of="checked" class="form" @send="save">
    <el-form-item label="Kind">
      <ChoiceField
        v-model="values.kind"
        bare
        label="Kind"
        :options="kinds.map((k) => ({ value: k, label: INSTRUMENT_WORDS[k] }))"
      />
    </el-form-item>
    <el-form-item prop="host" label="Address">
      <el-input v-model.trim="values.host" placeholder="10.0.0.20" />
    </el-form-item>
    <el-form-item prop="port" label="Port">
      <el-input-number v-model="values.port" :controls="false" />
    </el-form-item>
    <el-form-item prop="readingsPerSecond" label="Readings a second">
      <el-input-number v-model="values.readingsPerSecond" />
    </el-form-item>
    <el-form-item prop="calibratedOn" label="Calibrated on">
      <el-date-picker v-model="values.calibratedOn" value-format="YYYY-MM-DD" placeholder="no day" />
    </el-form-item>
    <el-form-item prop="calibrationDueOn" label="Calibration until">
      <el-date-picker v-model="values.calibrationDueOn" value-format="YYYY-MM-DD" placeholder="no day" />
    </el-form-item>
    <div class="row">
      <el-button size="large" type="primary" native-type="submit" :loading="busy">Save</el-button>
      <el-popconfirm
        v-if="instrument"
        width="260"
        :title="`No reading comes from ${thing.label} until it is connected again.`"
        confirm-button-text="Disconnect"
        cancel-button-text="Cancel"
        @confirm="drop"
      >
        <template #reference><el-button size="large">Disconnect</el-button></template>
      </el-popconfirm>
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
  padding: 8px 0 12px;
}
.form :deep(.el-input-number),
.form :deep(.el-date-editor),
.form > .el-form-item > :deep(.el-form-item__content) > .el-input {
  width: 150px;
}
.form > .row {
  margin-top: 28px;
}
</style>
