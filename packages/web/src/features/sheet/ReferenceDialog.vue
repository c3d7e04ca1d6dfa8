<script setup lang="ts">
import {
  convertPower,
  cordCheckState,
  type CordStamp,
  DomainError,
  LIGHT_SOURCES,
  type LightSource,
  type LossCriterion,
  parseDecimal,
  levelOfText,
  decimalToText,
  partsOf,
} from '@clear-mark/core';
import type { ClassReference, ErrorCode } from '@clear-mark/contract';
import { errorWords, LIGHT_WORDS, REFERENCE_WORDS } from '@clear-mark/words';
import { v7 } from 'uuid';
import { computed, reactive, ref } from 'vue';
import { useSession } from '../../session/session.ts';
import { useClassroom } from '../../classroom/use-classroom.ts';
import { useQueue } from '../../storage/queue.ts';
import { useInstruments } from '../../instruments/use-instruments.ts';
import MeterLine from './MeterLine.vue';

const props = defineProps<{
  classId: string;
  attemptId: string;
  criterion: LossCriterion;
  instrumentId: string | null;
  /** The test cord of the piece with its newest check. */
  cord: CordStamp | null;
}>();
const emit = defineEmits<{ close: []; made: [reference: ClassReference] }>();

const session = useSession();
const classroom = useClassroom();
const queue = useQueue();
const instruments = computed(() =>
  (classroom.detail?.things ?? []).filter((t) => t.kind === 'instrument' && !t.retired),
);
const chosen = ref(props.instrumentId ?? instruments.value[0]?.id ?? '');
const values = reactive<Record<string, string>>({});
const negative = ref(false);
const light = ref<LightSource | null>(null);
/** Breakout cords have a leg a fiber: one reference for all of them, or one through each. */
const leg = ref<number | null>(null);
const fiberLegs = computed(() =>
  props.criterion.link.referenceMethod === 'breakout'
    ? [...new Set(partsOf(props.criterion).flatMap((p) => p.fiber ?? []))]
    : [],
);
const cordWords = computed(() => {
  const { cord } = props;
  if (!cord) return null;
  const state = cordCheckState(cord, classroom.today());
  if (state === 'failed') {
    return `${cord.label} failed its check on ${cord.checkedOn}: take another cord, or what you read is void.`;
  }
  return state === 'overdue'
    ? `The check of ${cord.label} held until ${cord.dueOn}. Check the cord first (Class: Checks of the test cords), or what you read is void.`
    : null;
});
const failure = ref<string | null>(null);
const live = useInstruments();
const meters = computed(() => live.ofKind('power_meter'));
const meter = ref<InstanceType<typeof MeterLine> | null>(null);
/** The level that the meter shows at a wavelength, in dBm; null where it shows another, or has not settled. */
function levelAt(nm: number): string | null {
  const power = meter.value?.mine ? meter.value.power : null;
  if (power?.state !== 'reading' || power.wavelengthNm !== nm) return null;
  if (power.unit === 'dBm') return power.text;
  if (power.unit === 'dB') return null;
  return convertPower(Number(power.text), power.unit, 'dBm').toFixed(3);
}
function takeLevel(nm: number): void {
  const text = levelAt(nm);
  if (text === null) return;
  values[nm] = text;
  chosen.value = meter.value!.chosen.instrument.thingId;
}
const filled = computed(() => props.criterion.wavelengthsNm.filter((nm) => (values[nm] ?? '').trim() !== ''));

/** Kept on this device first, like an entry: a reference can be set without a network. */
function save(): void {
  failure.value = null;
  try {
    for (const nm of filled.value) levelOfText(values[nm]!);
  } catch (error) {
    if (!(error instanceof DomainError)) throw error;
    failure.value = errorWords(error.code as ErrorCode, error.params);
    return;
  }
  for (const nm of filled.value) {
    const body = {
      id: v7(),
      instrumentId: chosen.value,
      method: props.criterion.link.referenceMethod,
      wavelengthNm: nm,
      valueDbm: decimalToText(parseDecimal(values[nm]!)),
      setAt: new Date().toISOString(),
      showsNegative: negative.value,
      leg: leg.value,
      light: light.value,
    };
    void queue.pushReference({ classId: props.classId, body }, session.me!.id);
    const instrumentLabel = instruments.value.find((i) => i.id === chosen.value)?.label ?? '';
    // On the server's clock, as every other device will see it.
    const setAt = new Date(Date.parse(body.setAt) + classroom.offsetMs).toISOString();
    emit('made', { ...body, setAt, instrumentLabel, rereadDbm: null, voidReason: null });
  }
  emit('close');
}
</script>

<template>
  <el-dialog :model-value="true" title="Set the reference" width="640" append-to-body @close="emit('close')">
    <p class="soft">
      Method: {{ REFERENCE_WORDS[criterion.link.referenceMethod] }}. Launch cord inspected and clean, source
      and meter on the same wavelength, meter at 0.00 dB. From now on the cord stays on the source.
    </p>
    <p v-if="cordWords" class="notice bad" role="alert">{{ cordWords }}</p>
    <div class="choices">
      <label class="field">
        <span>Instrument</span>
        <el-select v-model="chosen" size="large" filterable no-data-text="The class has no instrument yet.">
          <el-option v-for="t in instruments" :key="t.id" :value="t.id" :label="t.label" />
        </el-select>
      </label>
      <label class="field">
        <span>Light</span>
        <el-select v-model="light" size="large" clearable placeholder="not said">
          <el-option v-for="l in LIGHT_SOURCES" :key="l" :value="l" :label="LIGHT_WORDS[l]" />
        </el-select>
      </label>
      <label v-if="fiberLegs.length > 0" class="field">
        <span>Through</span>
        <el-select
          v-model="leg"
          size="large"
          clearable
          placeholder="one for all legs"
          data-test="reference-leg"
        >
          <el-option v-for="n in fiberLegs" :key="n" :value="n" :label="`Leg ${n}`" />
        </el-select>
      </label>
    </div>
    <MeterLine
      v-if="meters.length > 0"
      ref="meter"
      :meters="meters"
      :attempt-id="attemptId"
      :preferred="chosen"
      :wavelengths="criterion.wavelengthsNm"
    />
    <div v-for="nm in criterion.wavelengthsNm" :key="nm" class="level">
      <label class="field">
        <span>Level through the launch cord at {{ nm }} nm, dBm</span>
        <el-input v-model="values[nm]" inputmode="text" placeholder="-5.12" :data-test="`reference-${nm}`" />
      </label>
      <el-button v-if="meter?.mine" size="large" :disabled="levelAt(nm) === null" @click="takeLevel(nm)">
        Take
      </el-button>
    </div>
    <el-checkbox v-model="negative" size="large">This meter shows a loss as a negative number</el-checkbox>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <div class="row foot">
      <el-button size="large" type="primary" :disabled="filled.length === 0 || chosen === ''" @click="save">
        Set reference
      </el-button>
      <el-button size="large" @click="emit('close')">Cancel</el-button>
    </div>
  </el-dialog>
</template>

<style scoped>
.field {
  margin-top: 10px;
}
.level {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 8px;
  align-items: end;
}
.choices {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(160px, 1fr));
  gap: 0 14px;
}
.foot {
  margin-top: 12px;
}
</style>
