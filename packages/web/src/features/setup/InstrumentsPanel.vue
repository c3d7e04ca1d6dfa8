<script setup lang="ts">
import type { Thing } from '@clear-mark/contract';
import { INSTRUMENT_WORDS } from '@clear-mark/words';
import { computed, ref } from 'vue';
import { ROUTES } from '../../api/client.ts';
import { useReply } from '../../api/queries.ts';
import { useSession } from '../../session/session.ts';
import InstrumentForm from './InstrumentForm.vue';

/** How the class's instruments are reached over the network, and until when they are calibrated. */
const props = defineProps<{ classId: string; things: readonly Thing[] }>();
const session = useSession();
/** The server goes to the address that is set here: only the lead sets it. */
const isLead = computed(() => session.me?.role === 'lead');
const {
  found: known,
  failure,
  again,
} = useReply(ROUTES.instruments, () => ({ params: { id: props.classId } }));
const open = ref<string | null>(null);
const rows = computed(() =>
  props.things
    .filter((t) => !t.retired && (t.kind === 'instrument' || t.kind === 'splicer'))
    .map((thing) => ({ thing, instrument: known.value?.find((i) => i.thingId === thing.id) ?? null })),
);
function settle(): void {
  open.value = null;
  void again();
}
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
            <span class="soft where">
              {{
                instrument
                  ? `${INSTRUMENT_WORDS[instrument.kind]} at ${instrument.host}:${instrument.port}, calibration ${instrument.calibrationDueOn ? `until ${instrument.calibrationDueOn}` : 'not entered'}`
                  : 'not connected'
              }}
            </span>
          </span>
          <el-button v-if="isLead" size="large" @click="open = open === thing.id ? null : thing.id">
            {{ open === thing.id ? 'Close' : instrument ? 'Change' : 'Connect' }}
          </el-button>
        </div>
        <InstrumentForm
          v-if="open === thing.id"
          :class-id="classId"
          :thing="thing"
          :instrument="instrument"
          @done="settle"
        />
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
.where {
  margin-left: 10px;
}
</style>
