<script setup lang="ts">
import type { ClassLink, Instrument } from '@clear-mark/contract';
import { DIRECTIONS } from '@clear-mark/core';
import { DIRECTION_WORDS } from '@clear-mark/words';
import { v7 } from 'uuid';
import { computed, reactive, watch } from 'vue';
import { request, ROUTES } from '../../../api/client.ts';
import { useAct, useReply } from '../../../api/queries.ts';
import CordField from './CordField.vue';
import ChoiceField from '../../../shared/ChoiceField.vue';

/** How the OTDR is set, and what it is plugged into. */
const open = defineModel<boolean>({ required: true });
const props = defineProps<{ classId: string; links: readonly ClassLink[]; attemptId: string | null }>();
const emit = defineEmits<{ taken: [id: string] }>();
const { found: instruments } = useReply(ROUTES.instruments, () =>
  open.value ? { params: { id: props.classId } } : null,
);
const otdrs = computed(() => (instruments.value ?? []).filter((i: Instrument) => i.kind === 'otdr'));
const { act, busy, failure } = useAct();
const set = reactive({
  thingId: '',
  wavelengthNm: 1310,
  pulseNs: 10,
  rangeM: 2000,
  averages: 65_536,
  groupIndex: 1.4677,
  linkId: '',
  fiber: 1,
  direction: 'a_b' as (typeof DIRECTIONS)[number],
  launchM: 500 as number | null,
  receiveM: 300 as number | null,
});
watch(otdrs, ([first]) => (set.thingId = set.thingId === '' ? (first?.thingId ?? '') : set.thingId));

async function take(): Promise<void> {
  const id = v7();
  const link = props.links.find((l) => l.id === set.linkId);
  const label = [
    link?.label ?? 'OTDR',
    `fiber ${set.fiber}`,
    `${set.wavelengthNm} nm`,
    DIRECTION_WORDS[set.direction],
  ]
    .join(', ')
    .slice(0, 60);
  const { linkId, ...rest } = set;
  const body = { ...rest, id, label, linkId: linkId === '' ? null : linkId, attemptId: props.attemptId };
  if (await act(() => request(ROUTES.acquireTrace, { params: { id: props.classId }, body })))
    emit('taken', id);
}
const choice = (values: readonly number[], unit: string) =>
  values.map((value) => ({ value, label: `${value} ${unit}`.trim() }));
</script>

<template>
  <el-dialog v-model="open" title="Take a trace with an OTDR" width="720" append-to-body>
    <p class="notice">An OTDR is a laser. Cap what is not used; look at no end while it measures.</p>
    <p v-if="instruments && otdrs.length === 0">
      No OTDR of this class is connected.
      <RouterLink :to="{ name: 'setup', params: { classId }, query: { view: 'equipment' } }"
        >Enter its address in Class.</RouterLink
      >
    </p>
    <div v-else class="fields">
      <ChoiceField
        v-model="set.thingId"
        label="OTDR"
        :options="otdrs.map((o) => ({ value: o.thingId, label: o.label }))"
      />
      <ChoiceField
        v-model="set.wavelengthNm"
        label="Wavelength"
        :options="choice([850, 1300, 1310, 1550, 1625], 'nm')"
      />
      <ChoiceField
        v-model="set.pulseNs"
        label="Pulse"
        :options="choice([3, 5, 10, 30, 100, 300, 1000], 'ns')"
      />
      <ChoiceField
        v-model="set.rangeM"
        label="Range"
        :options="choice([500, 1000, 2000, 5000, 10000, 20000, 40000], 'm')"
      />
      <ChoiceField
        v-model="set.averages"
        label="Averages"
        :options="choice([1024, 4096, 16384, 65536, 262144], '')"
      />
      <label class="field"
        ><span>Group index</span
        ><el-input-number
          v-model="set.groupIndex"
          size="large"
          :min="1.3"
          :max="1.7"
          :step="0.0001"
          :precision="4"
          :controls="false"
      /></label>
      <ChoiceField
        v-model="set.linkId"
        label="Link"
        none="not said"
        :options="links.map((l) => ({ value: l.id, label: l.label }))"
      />
      <label class="field"
        ><span>Fiber</span
        ><el-input-number v-model="set.fiber" size="large" :min="1" :max="3456" :precision="0"
      /></label>
      <ChoiceField
        v-model="set.direction"
        label="From"
        :options="DIRECTIONS.map((d) => ({ value: d, label: DIRECTION_WORDS[d] }))"
      />
      <CordField v-model="set.launchM" label="Launch cord" />
      <CordField v-model="set.receiveM" label="Receive cord" />
    </div>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <template #footer>
      <el-button size="large" @click="open = false">Cancel</el-button>
      <el-button size="large" type="primary" :loading="busy" :disabled="set.thingId === ''" @click="take"
        >Take the trace</el-button
      >
    </template>
  </el-dialog>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(190px, 1fr));
  gap: 12px 16px;
}
.field {
  display: grid;
  gap: 2px;
}
.fields :deep(.choice),
.field :deep(.el-input-number) {
  width: 100%;
}
</style>
