<script setup lang="ts">
import {
  INSTRUMENT_KINDS,
  type Instrument,
  type InstrumentKind,
  type InstrumentSetting,
  type Thing,
} from '@clear-mark/contract';
import { INSTRUMENT_WORDS } from '@clear-mark/words';
import { computed, reactive, ref } from 'vue';
import { request, ROUTES } from '../../api/client.ts';
import { useAct, useReply } from '../../api/queries.ts';
import { useSession } from '../../session/session.ts';
import ChoiceField from '../../shared/ChoiceField.vue';
import DayField from '../../shared/DayField.vue';

/** How the class's instruments are reached over the network, and until when they are calibrated. */
const props = defineProps<{ classId: string; things: readonly Thing[] }>();
const session = useSession();
/** The server goes to the address that is set here: only the lead sets it. */
const isLead = computed(() => session.me?.role === 'lead');
const { found: known, again } = useReply(ROUTES.instruments, () => ({ params: { id: props.classId } }));
const { failure, act } = useAct();
const open = ref<string | null>(null);
const form = reactive<InstrumentSetting>({
  kind: 'power_meter',
  host: '',
  port: 5025,
  readingsPerSecond: 5,
  calibratedOn: null,
  calibrationDueOn: null,
});
const rows = computed(() =>
  props.things
    .filter((t) => !t.retired && (t.kind === 'instrument' || t.kind === 'splicer'))
    .map((thing) => ({ thing, instrument: known.value?.find((i) => i.thingId === thing.id) ?? null })),
);
const kindsFor = (thing: Thing): readonly InstrumentKind[] =>
  thing.kind === 'splicer' ? ['splicer'] : INSTRUMENT_KINDS.filter((k) => k !== 'splicer');

async function run(work: () => Promise<unknown>): Promise<void> {
  if (await act(work)) open.value = null;
  await again();
}
function edit(thing: Thing, instrument: Instrument | null): void {
  open.value = thing.id;
  const { kind, host, port, readingsPerSecond, calibratedOn, calibrationDueOn } = instrument ?? {
    kind: kindsFor(thing)[0]!,
    host: '',
    port: 5025,
    readingsPerSecond: 5,
    calibratedOn: null,
    calibrationDueOn: null,
  };
  Object.assign(form, { kind, host: host ?? '', port, readingsPerSecond, calibratedOn, calibrationDueOn });
}
const save = (thingId: string): Promise<void> =>
  run(() => {
    const body = {
      ...form,
      calibratedOn: form.calibratedOn || null,
      calibrationDueOn: form.calibrationDueOn || null,
    };
    return request(ROUTES.setInstrument, { params: { id: props.classId, thingId }, body });
  });
const drop = (thingId: string): Promise<void> =>
  run(() => request(ROUTES.dropInstrument, { params: { id: props.classId, thingId } }));
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
        <form v-if="open === thing.id" class="row form" @submit.prevent="save(thing.id)">
          <ChoiceField
            v-model="form.kind"
            label="Kind"
            :options="kindsFor(thing).map((k) => ({ value: k, label: INSTRUMENT_WORDS[k] }))"
          />
          <label class="field"
            ><span>Address</span><el-input v-model.trim="form.host" placeholder="10.0.0.20" required
          /></label>
          <label class="field"
            ><span>Port</span
            ><el-input-number v-model="form.port" size="large" :controls="false" :min="1" :max="65535"
          /></label>
          <label class="field"
            ><span>Readings a second</span
            ><el-input-number v-model="form.readingsPerSecond" size="large" :min="1" :max="20"
          /></label>
          <DayField v-model="form.calibratedOn" clearable label="Calibrated on" />
          <DayField v-model="form.calibrationDueOn" clearable label="Calibration until" />
          <el-button size="large" type="primary" native-type="submit" :disabled="form.host === ''"
            >Save</el-button
          >
          <el-button v-if="instrument" size="large" @click="drop(thing.id)">Disconnect</el-button>
        </form>
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
