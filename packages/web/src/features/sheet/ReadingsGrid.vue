<script setup lang="ts">
import {
  type CriterionOutcome,
  type Entry,
  type EntryValue,
  fiberColour,
  isLossPart,
  parsePart,
  type PartOutcome,
  partValue,
  type ReadingVoidReason,
  type Unit,
} from '@clear-mark/core';
import type { ClassReference } from '@clear-mark/contract';
import { UNIT_WORDS } from '@clear-mark/words';
import { computed, ref } from 'vue';
import { stampOf } from '../../instruments/instruments.model.ts';
import { useInstruments } from '../../instruments/use-instruments.ts';
import { termsOf } from '../../shared/limit-words.ts';
import { timeOfDay } from '../../shared/time-words.ts';
import VerdictRing from '../../shared/VerdictRing.vue';
import LossUnits from './LossUnits.vue';
import MeterLine from './MeterLine.vue';
import { columnFacts, type GridCriterion } from './readings-grid.model.ts';
import ReferenceActs from './ReferenceActs.vue';
import RowScale from './RowScale.vue';
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
const { grid, isLoss, unit, parts, texts, problems, beyond, at, inputs, standing } = cells;
const { take, onEnter, onArrow, onPaste, takeShown } = cells;

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

/** A good cell of a void or other state shows its ring; open ones none. */
const ringOf = (part: string): PartOutcome | null => {
  const found = parts.value.get(part);
  return found && found.verdict !== 'incomplete' ? found : null;
};
const computedLoss = (part: string): string | null => {
  const found = parts.value.get(part);
  const value = standing(part);
  if (!found || !isLossPart(found) || found.lossDb === null || value?.kind !== 'loss' || value.unit === 'dB')
    return null;
  return found.lossDb.toFixed(2);
};
const lowIsWorse = computed(() => props.criterion.kind === 'readings' && !props.criterion.band.upper);
const facts = computed(() =>
  grid.value.columns.map((c) => columnFacts(c, props.outcome.parts, lowIsWorse.value)),
);

/** One scale for all rows: from zero to the limit, a little beyond it, or to the worst reading. */
const baseUnit = computed<Unit>(() => (props.criterion.kind === 'loss' ? 'dB' : props.criterion.unit));
const scale = computed(() => {
  const c = props.criterion;
  const limit =
    c.kind === 'loss'
      ? Math.max(...c.wavelengthsNm.map((nm) => termsOf(c, nm).limitDb))
      : Number(c.band.upper?.value ?? c.band.lower!.value);
  return { limit, to: Math.max(limit * 1.15, ...facts.value.map((f) => f.worst?.value ?? 0)) };
});
const marksOf = (row: number) =>
  grid.value.columns.flatMap((_, column) => {
    const found = parts.value.get(grid.value.partAt(row, column)!);
    const value = found ? partValue(found) : null;
    return value === null ? [] : [{ value, verdict: found!.verdict }];
  });
const marked = computed(() => Object.entries(problems));
const missing = computed(
  () => grid.value.fibers.length * grid.value.columns.length - facts.value.reduce((n, f) => n + f.read, 0),
);
const say = (n: number | null): string => (n === null ? '' : n.toFixed(2));

function noLight(): void {
  if (at.value === null) return;
  texts[at.value] = 'dark';
  onEnter(at.value);
}
function voidHere(reason: ReadingVoidReason): void {
  if (at.value !== null) emit('void', at.value, reason);
}
const cellName = (row: number, column: number): string =>
  ['Fiber', String(grid.value.fibers[row]), grid.value.columns[column]!.label]
    .filter((x) => x !== '')
    .join(' ');
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
    <table :class="{ halves: grid.columns.length === 1 }">
      <thead>
        <tr>
          <th scope="col">Fiber</th>
          <th v-for="c in grid.columns" :key="c.label" scope="col">
            {{ c.label || UNIT_WORDS[unit] }}
            <span v-if="isLoss && c.wavelengthNm !== null" class="ref small soft">{{
              referenceFor(c.wavelengthNm)
                ? `ref ${referenceFor(c.wavelengthNm)!.valueDbm} dBm, ${timeOfDay(referenceFor(c.wavelengthNm)!.setAt)}`
                : 'no reference yet'
            }}</span>
          </th>
          <th v-if="grid.columns.length > 1" class="drawn" scope="col">
            <span class="soft small"
              >band to {{ say(scale.limit) }} {{ UNIT_WORDS[baseUnit] }}: tick, then diamond</span
            >
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(fiber, row) in grid.fibers" :key="fiber">
          <th scope="row">
            <span class="dot" :style="{ background: `var(--fiber-${fiberColour(fiber)})` }" />
            <b>{{ fiber }}</b> <span class="soft small">{{ fiberColour(fiber) }}</span>
          </th>
          <td v-for="(c, column) in grid.columns" :key="c.label">
            <span class="cell" :class="{ bad: grid.partAt(row, column)! in problems }">
              <input
                :ref="
                  (el) =>
                    el
                      ? inputs.set(grid.partAt(row, column)!, el as HTMLInputElement)
                      : inputs.delete(grid.partAt(row, column)!)
                "
                v-model="texts[grid.partAt(row, column)!]"
                data-number
                inputmode="text"
                autocomplete="off"
                :data-part="grid.partAt(row, column)"
                :aria-label="cellName(row, column)"
                :aria-invalid="grid.partAt(row, column)! in problems"
                :readonly="locked"
                @focus="((at = grid.partAt(row, column)), emit('focus'))"
                @keydown.enter.prevent="onEnter(grid.partAt(row, column)!)"
                @keydown="onArrow($event, grid.partAt(row, column)!)"
                @blur="take(grid.partAt(row, column)!, false)"
                @paste="onPaste($event, grid.partAt(row, column)!)"
              />
              <span class="mark">
                <VerdictRing
                  v-if="ringOf(grid.partAt(row, column)!)"
                  :verdict="ringOf(grid.partAt(row, column)!)!.verdict"
                  :size="18"
                />
                <span v-if="computedLoss(grid.partAt(row, column)!)" class="small soft"
                  >{{ computedLoss(grid.partAt(row, column)!) }} dB</span
                >
              </span>
            </span>
          </td>
          <td v-if="grid.columns.length > 1" class="drawn">
            <RowScale :scale="scale" :marks="marksOf(row)" />
          </td>
        </tr>
      </tbody>
      <tfoot>
        <tr v-if="facts.some((f) => f.read > 0)">
          <th scope="row">Worst</th>
          <td v-for="(f, i) in facts" :key="i">
            <template v-if="f.worst"
              ><b>{{ say(f.worst.value) }}</b
              >{{ ' ' }}<span class="soft small">fiber {{ f.worst.fiber }}</span></template
            >
          </td>
        </tr>
        <tr v-if="facts.some((f) => f.read > 1)">
          <th scope="row">Mean, spread</th>
          <td v-for="(f, i) in facts" :key="i">
            {{ say(f.mean) }} <span class="soft small">spread {{ say(f.spread) }}</span>
          </td>
        </tr>
      </tfoot>
    </table>
    <RowSpreadList v-if="criterion.kind === 'loss'" :criterion="criterion" :outcome="outcome" />
    <p v-if="!locked && missing > 0" class="small soft">
      {{ missing }} to read. A column or block copied from a spreadsheet can be pasted into any cell.
    </p>
    <ul v-if="marked.length > 0 || beyond.length > 0" class="say" role="alert">
      <li v-for="[part, words] in marked" :key="part">
        <b>{{ cellName(grid.placeOf(part).row, grid.placeOf(part).column) }}</b>: {{ words }}
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
table {
  border-collapse: collapse;
  width: max-content;
  max-width: 100%;
}
th {
  text-align: left;
  font-weight: 400;
  padding: 0 14px 0 0;
  white-space: nowrap;
}
thead .drawn {
  font-weight: 400;
}
thead th {
  font-weight: 700;
  vertical-align: bottom;
  padding-bottom: 4px;
}
.ref {
  display: block;
  font-weight: 400;
}
td {
  padding: 1px 18px 1px 0;
  white-space: nowrap;
}
tfoot th,
tfoot td {
  border-top: 1px solid var(--hair);
  padding-top: 4px;
}
tfoot tr + tr th,
tfoot tr + tr td {
  border-top: 0;
}
.dot {
  display: inline-block;
  width: 14px;
  height: 14px;
  border-radius: 50%;
  border: 1px solid var(--ink-soft);
  vertical-align: -2px;
  margin-right: 4px;
}
.cell {
  display: inline-flex;
  align-items: center;
  gap: 6px;
}
input {
  width: 96px;
  min-height: var(--tap);
  border: 0;
  border-bottom: 1px solid var(--hair-strong);
  background: transparent;
  text-align: right;
  font-size: 1.125rem;
  font-weight: 700;
  padding: 0 4px;
}
input:focus {
  outline: none;
  border-bottom: 3px solid var(--accent);
  background: var(--sheet);
}
.bad input {
  border-bottom: 3px double var(--ink);
  background: var(--sunk);
}
.mark {
  display: inline-flex;
  align-items: center;
  gap: 4px;
  min-width: 20px;
}
.say {
  margin: 0;
  padding: 6px 12px;
  list-style: none;
  border-left: 4px solid var(--ink);
  background: var(--sunk);
}
/* One column of readings runs down in two halves. */
.halves tbody {
  display: grid;
  grid-auto-flow: column;
  grid-template-rows: repeat(6, auto);
}
.halves thead,
.halves tfoot {
  display: block;
}
.halves tr {
  display: grid;
  grid-template-columns: 120px 150px;
  align-items: center;
}
.halves thead tr,
.halves tfoot tr {
  grid-template-columns: 120px 220px;
}
@media (max-width: 800px) {
  .drawn {
    display: none;
  }
  .grid-field {
    padding-left: 0;
  }
  input {
    width: 78px;
  }
  td {
    padding-right: 8px;
  }
}
</style>
