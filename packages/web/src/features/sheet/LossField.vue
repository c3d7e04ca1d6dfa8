<script setup lang="ts">
import {
  checkValue,
  type CriterionOutcome,
  DomainError,
  type Entry,
  type EntryValue,
  isLossPart,
  type LossCriterion,
  lossSlip,
  partKey,
  partsOf,
  type ReadingVoidReason,
} from '@clear-mark/core';
import type { ClassReference, ErrorCode } from '@clear-mark/contract';
import { conclusionWords, DIRECTION_WORDS, errorWords, reasonWords, UNIT_WORDS } from '@clear-mark/words';
import { computed, reactive, ref, watch } from 'vue';
import { deviceSettings } from '../../storage/device-settings.ts';
import BandScale from '../../shared/BandScale.vue';
import { timeOfDay } from '../../shared/time-words.ts';
import VerdictRing from '../../shared/VerdictRing.vue';
import { identityWords, stampOf } from '../../instruments/instruments.model.ts';
import { useInstruments } from '../../instruments/use-instruments.ts';
import LimitDetails from './LimitDetails.vue';
import MeterLine from './MeterLine.vue';
import { termsOf } from '../../shared/limit-words.ts';
import { besideTrainee, conclusionsOf, LOSS_UNITS, lossOf, type LossUnit } from './loss-field.model.ts';
import LossUnits from './LossUnits.vue';
import ReferenceActs from './ReferenceActs.vue';
import { valueText } from './sheet.model.ts';
import ActMenu from '../../shared/ActMenu.vue';
import { voidActs } from './void-acts.ts';

const props = defineProps<{
  criterion: LossCriterion;
  outcome: CriterionOutcome;
  entryById: (id: string) => Entry | null;
  references: readonly ClassReference[];
  referenceFor: (wavelengthNm: number) => ClassReference | null;
  locked: boolean;
  attemptId: string;
  /** The instrument that the attempt was started with. */
  instrumentId: string | null;
  /** The launch's mode conditioning as it was checked; null while it was not. */
  conditioned: boolean | null;
  /** The trainee's latest own reading of a part. */
  traineeReading: (part: string) => Entry | null;
}>();
const emit = defineEmits<{
  value: [part: string, value: EntryValue];
  void: [part: string, reason: ReadingVoidReason];
  focus: [];
  reference: [];
  reread: [];
}>();

const kept = deviceSettings.read('loss-unit');
const unit = ref<LossUnit>(LOSS_UNITS.find((u) => u === kept) ?? 'dBm');
watch(unit, (now) => deviceSettings.write('loss-unit', now));

const lines = computed(() =>
  partsOf(props.criterion).map((place) => {
    const part = partKey(place);
    const nm = place.wavelengthNm!;
    const judged = props.outcome.parts.filter(isLossPart).find((p) => p.part === part);
    const entry = judged?.entryId ? props.entryById(judged.entryId) : null;
    const terms = termsOf(props.criterion, nm);
    const reference =
      (entry?.value?.kind === 'loss' &&
        props.references.find((r) => r.id === (entry.value as { referenceId: string }).referenceId)) ||
      props.referenceFor(nm);
    return { nm, part, direction: place.direction, entry, terms, reference, judged };
  }),
);
type Line = (typeof lines.value)[number];

const texts = reactive<Record<string, string>>({});
const asking = ref<string | null>(null);
const error = ref<string | null>(null);
// A field follows its own standing reading only: another entry's arrival must not touch what is being typed.
for (const place of partsOf(props.criterion)) {
  const part = partKey(place);
  watch(
    () => valueText(lines.value.find((l) => l.part === part)?.entry?.value ?? null),
    (now) => {
      texts[part] = now;
    },
    { immediate: true },
  );
}

const typedUnit = (line: Line): LossUnit => {
  const value = line.entry?.value;
  return value?.kind === 'loss' && texts[line.part] === value.text ? (value.unit as LossUnit) : unit.value;
};

function typedLoss(line: Line): number | null {
  const text = texts[line.part]?.trim() ?? '';
  if (text === '' || !line.reference) return null;
  const value = { kind: 'loss', text, unit: typedUnit(line), referenceId: line.reference.id } as const;
  return lossOf(value, line.reference, props.criterion);
}
function take(part?: string): boolean {
  error.value = null;
  const line =
    lines.value.find((l) => l.part === part) ??
    lines.value.find((l) => (texts[l.part] ?? '') !== valueText(l.entry?.value ?? null));
  if (!line || !line.reference) return false;
  const text = texts[line.part]?.trim() ?? '';
  if (text === '') return false;
  if (text === valueText(line.entry?.value ?? null)) return true;
  const value = { kind: 'loss', text, unit: typedUnit(line), referenceId: line.reference.id } as const;
  try {
    checkValue(props.criterion, line.part, value);
  } catch (failed) {
    if (!(failed instanceof DomainError)) throw failed;
    error.value = errorWords(failed.code as ErrorCode, failed.params);
    return false;
  }
  const slip = lossSlip(value, line.reference, line.terms);
  const question = `${line.part} ${text}`;
  if (slip !== null && asking.value !== question) {
    asking.value = question;
    return false;
  }
  asking.value = null;
  emit('value', line.part, slip === null ? value : { ...value, slipConfirmed: true });
  return true;
}
defineExpose({ take });

const instruments = useInstruments();
const meters = computed(() => instruments.ofKind('power_meter'));
const meter = ref<InstanceType<typeof MeterLine> | null>(null);
/** What the meter shows, when it is this sheet's and at the wavelength of a line. */
function liveFor(line: Line) {
  const power = meter.value?.mine ? meter.value.power : null;
  return power && power.state !== 'failed' && power.wavelengthNm === line.nm ? power : null;
}
function takeLive(line: Line): void {
  const power = liveFor(line);
  if (!power || !line.reference || !meter.value) return;
  const base = { kind: 'loss', referenceId: line.reference.id } as const;
  const instrument = stampOf(meter.value.chosen, power);
  emit(
    'value',
    line.part,
    power.state === 'reading'
      ? { ...base, text: power.text, unit: power.unit, instrument }
      : { ...base, unit: 'dBm', noLight: true, instrument },
  );
}
const conclusions = computed(() => conclusionsOf(props.criterion, props.outcome, props.conditioned));
/** The trainee's own reading of the same part beside the instructor's, whichever came first. */
function traineeWords(line: Line): string | null {
  const own = props.traineeReading(line.part);
  if (own?.value?.kind !== 'loss' || !line.judged) return null;
  const { referenceId } = own.value;
  const reference = props.references.find((r) => r.id === referenceId) ?? null;
  return besideTrainee(own, line.judged, reference, props.criterion);
}
const stampWords = (line: Line): string | null => {
  const stamp = line.entry?.value?.kind === 'loss' ? line.entry.value.instrument : undefined;
  return stamp
    ? `read by ${instruments.live.get(stamp.thingId)?.instrument.label ?? identityWords(stamp.identity)}, ${timeOfDay(stamp.at)}`
    : null;
};

function age(reference: ClassReference): string {
  const minutes = Math.round((Date.now() - Date.parse(reference.setAt)) / 60_000);
  return minutes < 60 ? `${minutes} min old` : `${Math.floor(minutes / 60)} h ${minutes % 60} min old`;
}
function noLight(line: Line): void {
  if (!line.reference) return;
  emit('value', line.part, { kind: 'loss', unit: 'dBm', noLight: true, referenceId: line.reference.id });
}
</script>

<template>
  <div class="loss">
    <div class="head">
      <LossUnits v-model="unit" :locked="locked" />
      <ReferenceActs
        v-if="!locked"
        :read="lines.some((l) => l.entry !== null)"
        @reference="emit('reference')"
        @reread="emit('reread')"
      />
    </div>
    <MeterLine
      v-if="meters.length > 0 && !locked"
      ref="meter"
      :meters="meters"
      :attempt-id="attemptId"
      :preferred="instrumentId"
      :wavelengths="criterion.wavelengthsNm"
    />
    <div v-for="line in lines" :key="line.part" class="line" :data-part="line.part">
      <div class="nm">
        <span class="figure">{{ line.nm }}</span>
        <span class="unit"
          >nm<template v-if="line.direction">, {{ DIRECTION_WORDS[line.direction] }}</template></span
        >
        <p class="small soft">
          <template v-if="line.reference"
            >ref {{ line.reference.valueDbm }} dBm, {{ line.reference.instrumentLabel }},
            {{ timeOfDay(line.reference.setAt) }}, {{ age(line.reference) }}</template
          >
          <template v-else>no reference yet</template>
          <template v-if="stampWords(line)"><br />{{ stampWords(line) }}</template>
        </p>
      </div>
      <BandScale
        :scale="{
          from: 0,
          to: line.terms.limitDb * 2,
          lower: null,
          upper: line.terms.limitDb,
          target: line.terms.expectedDb,
        }"
        :value="typedLoss(line)"
        :verdict="line.judged?.verdict ?? null"
        unit="dB"
      />
      <label class="typed">
        <span class="sr"
          >Reading at {{ line.nm }} nm{{ line.direction ? ` ${DIRECTION_WORDS[line.direction]}` : '' }},
          {{ typedUnit(line) }}</span
        >
        <input
          v-model="texts[line.part]"
          data-number
          inputmode="text"
          autocomplete="off"
          :readonly="locked || line.reference === null"
          @focus="emit('focus')"
          @keydown.enter.prevent="take(line.part)"
          @blur="
            texts[line.part] !== valueText(line.entry?.value ?? null) && asking === null && take(line.part)
          "
        />
        <span class="unit">{{ UNIT_WORDS[typedUnit(line)] }}</span>
      </label>
      <div class="found">
        <template v-if="line.judged && line.judged.verdict !== 'incomplete'">
          <VerdictRing :verdict="line.judged.verdict" :size="24" />
          <span v-if="line.judged.lossDb !== null" class="figure">{{ line.judged.lossDb.toFixed(2) }}</span>
          <span v-if="line.judged.lossDb !== null" class="unit">dB</span>
        </template>
        <template v-else-if="typedLoss(line) !== null"
          ><span class="figure">{{ typedLoss(line)!.toFixed(2) }}</span>
          <span class="unit">dB</span></template
        >
      </div>
      <div v-if="!locked" class="row more">
        <button
          v-if="meter?.mine"
          class="act"
          type="button"
          :disabled="!line.reference || !liveFor(line)"
          :title="liveFor(line) ? 'Take what the meter shows' : `The meter is not at ${line.nm} nm`"
          @click="takeLive(line)"
        >
          Take
        </button>
        <button class="act" type="button" :disabled="!line.reference" @click="noLight(line)">No light</button>
        <ActMenu
          label="Void"
          :name="`Void the reading at ${line.nm} nm${line.direction ? ` ${DIRECTION_WORDS[line.direction]}` : ''}`"
          :acts="voidActs"
          @choose="(reason) => emit('void', line.part, reason)"
        />
      </div>
      <p v-if="line.judged?.reason && line.judged.verdict !== 'incomplete'" class="why">
        {{ reasonWords(line.judged.reason, () => criterion.label) }}
      </p>
      <p v-if="traineeWords(line)" class="why">{{ traineeWords(line) }}</p>
    </div>
    <p v-if="error" class="say bad" role="alert">{{ error }}</p>
    <p v-else-if="asking" class="say" role="alert">
      {{ asking.split(' ')[1] }} dB looks like a slip of the decimal sign. Enter again keeps it as typed.
    </p>
    <div v-if="conclusions.length > 0" class="say" data-test="conclusions">
      <p v-for="c in conclusions" :key="c.code">{{ conclusionWords(c) }}</p>
    </div>
    <LimitDetails :criterion="criterion" />
  </div>
</template>

<style scoped>
.loss {
  grid-column: 1 / -1;
  padding: 0 0 8px 42px;
  display: grid;
  gap: 6px;
}
.head {
  display: flex;
  gap: 8px;
  justify-content: space-between;
  flex-wrap: wrap;
}
.line {
  display: grid;
  grid-template-columns: 150px minmax(110px, 1fr) auto 110px auto;
  align-items: center;
  gap: 4px 10px;
  border-top: 1px solid var(--hair);
  padding-top: 6px;
}
.typed {
  display: inline-flex;
  align-items: baseline;
  gap: 4px;
}
input {
  width: 92px;
  min-height: var(--tap);
  border: 0;
  border-bottom: 2px solid var(--hair-strong);
  background: transparent;
  text-align: right;
  font-size: 1.5rem;
  font-weight: 700;
}
input:focus {
  outline: none;
  border-bottom-color: var(--accent);
  background: var(--sheet);
}
input:read-only {
  border-bottom-style: dashed;
}
.found {
  display: flex;
  align-items: center;
  gap: 6px;
}
.more {
  flex-wrap: nowrap;
}
.more .act {
  padding: 0 8px;
}
.why {
  grid-column: 2 / -1;
  font-size: 0.9375rem;
}
.say {
  border-left: 4px solid var(--ink-soft);
  background: var(--sunk);
  padding: 4px 10px;
}
.say.bad {
  border-color: var(--ink);
  background: var(--sunk);
}
@media (max-width: 1100px) {
  .loss {
    padding-left: 0;
  }
  .line {
    grid-template-columns: 1fr 1fr auto;
  }
}
</style>
