<script setup lang="ts">
import { POWER_FAULT_WORDS, STATION_FAULT_WORDS, UNIT_WORDS } from '@clear-mark/words';
import { computed, ref } from 'vue';
import { isFree, type LiveInstrument, overdue, steady } from '../../instruments/instruments.model.ts';
import { useClaim } from '../../instruments/use-claim.ts';
import { useInstruments } from '../../instruments/use-instruments.ts';
import { useSession } from '../../session/session.ts';
import { useClassroom } from '../../classroom/use-classroom.ts';
import ChoiceField from '../../shared/ChoiceField.vue';

/** A power meter beside a loss field: what it shows now, and whose readings it gives. */
const props = defineProps<{
  meters: readonly LiveInstrument[];
  attemptId: string;
  preferred: string | null;
  wavelengths: readonly number[];
}>();
const session = useSession();
const instruments = useInstruments();
const claim = useClaim(props.attemptId);
const chosenId = ref<string | null>(null);
const orderFailure = ref<string | null>(null);
const classroom = useClassroom();
const day = computed(() => classroom.today());

const chosen = computed(
  () =>
    props.meters.find((m) => m.instrument.thingId === chosenId.value) ??
    props.meters.find((m) => m.instrument.thingId === props.preferred) ??
    props.meters[0]!,
);
const mine = computed(
  () => claim.held.value === chosen.value.instrument.thingId && isFree(chosen.value, session.deviceId),
);
const power = computed(() => (chosen.value.shows?.kind === 'power' ? chosen.value.shows : null));
defineExpose({ mine, power, chosen });

async function take(takeOver: boolean): Promise<void> {
  await claim.take(chosen.value.instrument.thingId, takeOver);
}
/** Source and meter to the same wavelength: the rule before any number. */
async function tune(wavelengthNm: number): Promise<void> {
  orderFailure.value = null;
  const order = { order: 'wavelength', wavelengthNm } as const;
  for (const l of [...instruments.ofKind('source'), chosen.value]) {
    const { thingId } = l.instrument;
    // Who gives an order has the instrument: the source for as long as the order takes.
    const held = thingId === claim.held.value;
    const taken = held || (await instruments.claim(thingId, props.attemptId, false));
    if (taken !== true && !taken.taken) orderFailure.value ??= taken.words;
    else orderFailure.value ??= await instruments.order(thingId, order);
    if (taken !== true && taken.taken) await instruments.release(thingId);
  }
}
</script>

<template>
  <div class="meter" data-test="meter">
    <ChoiceField
      v-if="meters.length > 1"
      bare
      label="Meter"
      :model-value="chosen.instrument.thingId"
      :options="meters.map((m) => ({ value: m.instrument.thingId, label: m.instrument.label }))"
      @change="(id) => (chosenId = id)"
    />
    <b v-else>{{ chosen.instrument.label }}</b>
    <span class="shows" aria-live="off">
      <template v-if="chosen.state !== 'ready'">{{
        chosen.state === 'failed' ? STATION_FAULT_WORDS[chosen.fault ?? 'closed'] : 'connecting'
      }}</template>
      <template v-else-if="power?.state === 'reading'">
        <span class="figure">{{
          power.unit === 'dBm' || power.unit === 'dB' ? Number(power.text).toFixed(2) : power.text
        }}</span>
        <span class="unit">
          {{ UNIT_WORDS[power.unit] }} at {{ power.wavelengthNm }} nm,
          {{ steady(chosen) ? 'settled' : 'settling' }}</span
        >
      </template>
      <template v-else-if="power?.state === 'no_light'"
        ><b>no light</b> <span class="unit">at {{ power.wavelengthNm }} nm</span></template
      >
      <template v-else-if="power?.state === 'failed'">{{ POWER_FAULT_WORDS[power.why] }}</template>
    </span>
    <span class="row">
      <template v-if="mine">
        <button
          v-for="nm in wavelengths"
          :key="nm"
          class="act"
          type="button"
          :aria-pressed="power !== null && 'wavelengthNm' in power && power.wavelengthNm === nm"
          @click="tune(nm)"
        >
          {{ nm }} nm
        </button>
      </template>
      <template v-else>
        <button class="act" type="button" :disabled="chosen.state !== 'ready'" @click="take(false)">
          Take its readings
        </button>
        <button v-if="claim.inUse.value" class="act" type="button" @click="take(true)">Take it over</button>
      </template>
    </span>
    <p v-if="claim.words.value && !mine" class="say" role="alert">{{ claim.words.value }}</p>
    <p v-if="orderFailure" class="say" role="alert">{{ orderFailure }}</p>
    <p v-if="overdue(chosen.instrument, day)" class="say">
      Its calibration ran out on {{ chosen.instrument.calibrationDueOn }}: readings are marked.
    </p>
  </div>
</template>

<style scoped>
.meter {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr) auto;
  gap: 4px 14px;
  align-items: center;
  background: var(--sunk);
  padding: 4px 10px;
  border-radius: var(--round);
}
.say {
  grid-column: 1 / -1;
  border-left: 4px solid var(--ink);
  padding-left: 8px;
}
@media (max-width: 800px) {
  .meter {
    grid-template-columns: 1fr;
  }
}
</style>
