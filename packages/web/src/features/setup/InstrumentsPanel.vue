<script setup lang="ts">
import {
  INSTRUMENT_KINDS,
  type Instrument,
  type InstrumentKind,
  InstrumentSetting,
  type Thing,
} from '@clear-mark/contract';
import { INSTRUMENT_WORDS } from '@clear-mark/words';
import { computed, ref } from 'vue';
import { request, ROUTES } from '../../api/client.ts';
import { useAct, useReply } from '../../api/queries.ts';
import { useSession } from '../../session/session.ts';
import ChoiceField from '../../shared/ChoiceField.vue';
import DayField from '../../shared/DayField.vue';
import { useForm } from '../../shared/use-form.ts';

/** How the class's instruments are reached over the network, and until when they are calibrated. */
const props = defineProps<{ classId: string; things: readonly Thing[] }>();
const session = useSession();
/** The server goes to the address that is set here: only the lead sets it. */
const isLead = computed(() => session.me?.role === 'lead');
const { found: known, again } = useReply(ROUTES.instruments, () => ({ params: { id: props.classId } }));
const dropping = useAct();
const failure = computed(() => unsaved.value ?? dropping.failure.value);
const open = ref<string | null>(null);
const NEW = { host: '', port: 5025, readingsPerSecond: 5, calibratedOn: null, calibrationDueOn: null };
const {
  values,
  rules,
  form,
  failure: unsaved,
  busy,
  send,
  reset,
} = useForm(InstrumentSetting, { kind: 'power_meter' as InstrumentKind, ...NEW });
const rows = computed(() =>
  props.things
    .filter((t) => !t.retired && (t.kind === 'instrument' || t.kind === 'splicer'))
    .map((thing) => ({ thing, instrument: known.value?.find((i) => i.thingId === thing.id) ?? null })),
);
const kindsFor = (thing: Thing): readonly InstrumentKind[] =>
  thing.kind === 'splicer' ? ['splicer'] : INSTRUMENT_KINDS.filter((k) => k !== 'splicer');

async function settle(done: boolean): Promise<void> {
  if (done) open.value = null;
  await again();
}
function edit(thing: Thing, instrument: Instrument | null): void {
  open.value = thing.id;
  const set = instrument ?? { kind: kindsFor(thing)[0]!, ...NEW };
  reset({
    kind: set.kind,
    host: set.host ?? '',
    port: set.port ?? NEW.port,
    readingsPerSecond: set.readingsPerSecond,
    calibratedOn: set.calibratedOn,
    calibrationDueOn: set.calibrationDueOn,
  });
}
const save = async (thingId: string): Promise<void> =>
  settle(
    await send((body) => request(ROUTES.setInstrument, { params: { id: props.classId, thingId }, body })),
  );
const drop = async (thingId: string): Promise<void> =>
  settle(
    await dropping.act(() => request(ROUTES.dropInstrument, { params: { id: props.classId, thingId } })),
  );
</script>

<template>
  <section class="section">
    <h2>Instruments on the network</h2>
    <p class="soft">
      An instrument that speaks SCPI over a TCP socket gives its readings to the sheet that asks for them.
      Typed readings need none of this.{{ isLead ? '' : ' The lead sets where an instrument is.' }}
    </p>
    <p v-if="rows.length === 0" class="soft">Add an instrument or a splicer above first.</p>
    <ul>
      <li v-for="{ thing, instrument } in rows" :key="thing.id">
        <div class="row spread">
          <span>
            <b>{{ thing.label }}</b>
            <span class="soft">
              {{
                instrument
                  ? `${INSTRUMENT_WORDS[instrument.kind]} at ${instrument.host}:${instrument.port}, calibration ${instrument.calibrationDueOn ? `until ${instrument.calibrationDueOn}` : 'not entered'}`
                  : 'not connected'
              }}
            </span>
          </span>
          <el-button
            v-if="isLead"
            size="large"
            @click="open === thing.id ? (open = null) : edit(thing, instrument)"
          >
            {{ open === thing.id ? 'Close' : instrument ? 'Change' : 'Connect' }}
          </el-button>
        </div>
        <el-form
          v-if="open === thing.id"
          ref="form"
          class="form"
          :model="values"
          :rules="rules"
          label-position="top"
          size="large"
          hide-required-asterisk
          @submit.prevent="save(thing.id)"
        >
          <ChoiceField
            v-model="values.kind"
            label="Kind"
            :options="kindsFor(thing).map((k) => ({ value: k, label: INSTRUMENT_WORDS[k] }))"
          />
          <el-form-item prop="host" label="Address">
            <el-input v-model.trim="values.host" placeholder="10.0.0.20" />
          </el-form-item>
          <el-form-item prop="port" label="Port">
            <el-input-number v-model="values.port" :controls="false" />
          </el-form-item>
          <el-form-item prop="readingsPerSecond" label="Readings a second">
            <el-input-number v-model="values.readingsPerSecond" />
          </el-form-item>
          <DayField v-model="values.calibratedOn" clearable label="Calibrated on" />
          <DayField v-model="values.calibrationDueOn" clearable label="Calibration until" />
          <div class="row">
            <el-button size="large" type="primary" native-type="submit" :loading="busy">Save</el-button>
            <el-popconfirm
              v-if="instrument"
              width="260"
              :title="`No reading comes from ${thing.label} until it is connected again.`"
              confirm-button-text="Disconnect"
              cancel-button-text="Leave it"
              @confirm="drop(thing.id)"
            >
              <template #reference><el-button size="large">Disconnect</el-button></template>
            </el-popconfirm>
          </div>
        </el-form>
      </li>
    </ul>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
  </section>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  border-top: 1px solid var(--hair);
  padding: 6px 0;
}
.form {
  align-items: end;
  padding: 8px 0 12px;
}
.form .el-input {
  width: 150px;
}
</style>
