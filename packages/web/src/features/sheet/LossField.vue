<script setup lang="ts">
import type { CriterionOutcome, Entry, EntryValue, LossCriterion, ReadingVoidReason } from '@clear-mark/core';
import type { ClassReference } from '@clear-mark/contract';
import { conclusionWords } from '@clear-mark/words';
import { computed, ref, watch } from 'vue';
import { deviceSettings } from '../../storage/device-settings.ts';
import { timeOfDay } from '../../shared/time-words.ts';
import { identityWords, stampOf } from '../../instruments/instruments.model.ts';
import { useInstruments } from '../../instruments/use-instruments.ts';
import LimitDetails from './LimitDetails.vue';
import MeterLine from './MeterLine.vue';
import {
  besideTrainee,
  conclusionsOf,
  LOSS_UNITS,
  lossLines,
  type LossUnit,
  type ShownLossLine as Line,
} from './loss-field.model.ts';
import LossLine from './LossLine.vue';
import LossUnits from './LossUnits.vue';
import ReferenceActs from './ReferenceActs.vue';

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
  lossLines(props.criterion, props.outcome, props.entryById, props.references, props.referenceFor),
);
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
    <LossLine
      v-for="line in lines"
      :key="line.part"
      :criterion="criterion"
      :line="line"
      :unit="unit"
      :locked="locked"
      :live="meter?.mine ? liveFor(line) : null"
      :metered="meter?.mine ?? false"
      :stamp="stampWords(line)"
      :beside="traineeWords(line)"
      @focus="emit('focus')"
      @value="emit('value', line.part, $event)"
      @void="emit('void', line.part, $event)"
      @live="takeLive(line)"
    />
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
.say {
  border-left: 4px solid var(--ink-soft);
  background: var(--sunk);
  padding: 4px 10px;
}
@media (max-width: 1100px) {
  .loss {
    padding-left: 0;
  }
}
</style>
