<script setup lang="ts">
import {
  type CriterionOutcome,
  type Entry,
  type EntryValue,
  parsePart,
  type ReadingVoidReason,
} from '@clear-mark/core';
import type { ClassReference } from '@clear-mark/contract';
import { computed, ref } from 'vue';
import { stampOf } from '../../instruments/instruments.model.ts';
import { useInstruments } from '../../instruments/use-instruments.ts';
import LossUnits from './LossUnits.vue';
import MeterLine from './MeterLine.vue';
import { cellName, columnFacts, type GridCriterion } from './readings-grid.model.ts';
import ReferenceActs from './ReferenceActs.vue';
import ReadingsTable from './ReadingsTable.vue';
import RowSpreadList from './RowSpreadList.vue';
import { useGridCells } from './use-grid-cells.ts';
import ActMenu from '../../shared/ActMenu.vue';
import { voidActs } from './void-acts.ts';

/** Readings of many fibers: typed cell by cell, or pasted from a spreadsheet. */
const props = defineProps<{
  criterion: GridCriterion;
  outcome: CriterionOutcome;
  entryById: (id: string) => Entry | null;
  referenceFor: (wavelengthNm: number, fiber?: number | null) => ClassReference | null;
  locked: boolean;
  attemptId: string;
  instrumentId: string | null;
}>();
const emit = defineEmits<{
  values: [values: readonly { part: string; value: EntryValue }[]];
  void: [part: string, reason: ReadingVoidReason];
  focus: [];
  reference: [];
  reread: [];
  done: [];
}>();

const cells = useGridCells(props, {
  values: (values) => emit('values', values),
  done: () => emit('done'),
});
const { grid, isLoss, unit, texts, problems, beyond, at, onEnter, takeShown } = cells;

const instruments = useInstruments();
const meters = computed(() => (isLoss.value ? instruments.ofKind('power_meter') : []));
const meter = ref<InstanceType<typeof MeterLine> | null>(null);
/** The chosen cell's place, and what the meter shows for it when it is at that cell's wavelength. */
const chosen = computed(() => {
  if (at.value === null) return null;
  const { fiber, wavelengthNm } = parsePart(at.value);
  const power = meter.value?.mine ? meter.value.power : null;
  const fits = power && power.state !== 'failed' && power.wavelengthNm === wavelengthNm;
  return { part: at.value, fiber, wavelengthNm, power: fits ? power : null };
});
function takeLive(): void {
  const reference = chosen.value?.wavelengthNm
    ? props.referenceFor(chosen.value.wavelengthNm, chosen.value.fiber)
    : null;
  const power = chosen.value?.power;
  if (!chosen.value || !power || !reference) return;
  const instrument = stampOf(meter.value!.chosen, power);
  const base = { kind: 'loss', referenceId: reference.id, instrument } as const;
  takeShown(
    chosen.value.part,
    power.state === 'reading'
      ? { ...base, text: power.text, unit: power.unit }
      : { ...base, unit: 'dBm', noLight: true },
  );
}

const lowIsWorse = computed(() => props.criterion.kind === 'readings' && !props.criterion.band.upper);
const facts = computed(() =>
  grid.value.columns.map((c) => columnFacts(c, props.outcome.parts, lowIsWorse.value)),
);

const marked = computed(() => Object.entries(problems));
const missing = computed(
  () => grid.value.fibers.length * grid.value.columns.length - facts.value.reduce((n, f) => n + f.read, 0),
);

function noLight(): void {
  if (at.value === null) return;
  texts[at.value] = 'dark';
  onEnter(at.value);
}
function voidHere(reason: ReadingVoidReason): void {
  if (at.value !== null) emit('void', at.value, reason);
}
</script>

<template>
  <div class="grid-field">
    <div v-if="isLoss && !locked" class="tools">
      <LossUnits v-model="unit" />
      <button class="act" type="button" :disabled="at === null" @click="noLight">No light</button>
      <ActMenu
        label="Void"
        name="Void the chosen reading"
        :disabled="at === null"
        :acts="voidActs"
        @choose="voidHere"
      />
      <span class="fill" />
      <ReferenceActs
        :read="facts.some((f) => f.read > 0)"
        @reference="emit('reference')"
        @reread="emit('reread')"
      />
    </div>
    <div v-if="meters.length > 0 && !locked" class="live">
      <MeterLine
        ref="meter"
        :meters="meters"
        :attempt-id="attemptId"
        :preferred="instrumentId"
        :wavelengths="criterion.wavelengthsNm ?? []"
      />
      <button v-if="meter?.mine" class="act" type="button" :disabled="!chosen?.power" @click="takeLive">
        {{
          chosen ? `Take for fiber ${chosen.fiber}, ${chosen.wavelengthNm} nm` : 'Choose a cell to take into'
        }}
      </button>
    </div>
    <ReadingsTable
      :cells="cells"
      :criterion="criterion"
      :facts="facts"
      :locked="locked"
      :reference-for="referenceFor"
      @focus="emit('focus')"
    />
    <RowSpreadList v-if="criterion.kind === 'loss'" :criterion="criterion" :outcome="outcome" />
    <p v-if="!locked && missing > 0" class="small soft">
      {{ missing }} to read. A column or block copied from a spreadsheet can be pasted into any cell.
    </p>
    <ul v-if="marked.length > 0 || beyond.length > 0" class="say" role="alert">
      <li v-for="[part, words] in marked" :key="part">
        <b>{{ cellName(grid, grid.placeOf(part).row, grid.placeOf(part).column) }}</b>: {{ words }}
      </li>
      <li v-if="beyond.length > 0">
        Beyond the grid and not taken: {{ beyond.join(', ') }}.
        <button class="act" type="button" @click="beyond = []">Understood</button>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.live {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 8px;
  margin-bottom: 8px;
}
.grid-field {
  grid-column: 1 / -1;
  padding: 0 0 10px 42px;
  display: grid;
  gap: 8px;
}
.tools {
  display: flex;
  gap: 8px;
  flex-wrap: wrap;
}
.fill {
  flex: 1;
}
.say {
  margin: 0;
  padding: 6px 12px;
  list-style: none;
  border-left: 4px solid var(--ink);
  background: var(--sunk);
}
@media (max-width: 800px) {
  .grid-field {
    padding-left: 0;
  }
}
</style>
