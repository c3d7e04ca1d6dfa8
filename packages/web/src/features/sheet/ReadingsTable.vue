<script setup lang="ts">
import { fiberColour, isLossPart, type PartOutcome, partValue, type Unit } from '@clear-mark/core';
import type { ClassReference } from '@clear-mark/contract';
import { UNIT_WORDS } from '@clear-mark/words';
import { computed } from 'vue';
import { termsOf } from '../../shared/limit-words.ts';
import { timeOfDay } from '../../shared/time-words.ts';
import VerdictRing from '../../shared/VerdictRing.vue';
import { cellName, type ColumnFacts, type GridCriterion } from './readings-grid.model.ts';
import RowScale from './RowScale.vue';
import type { GridCells } from './use-grid-cells.ts';

/** The cells of a grid of readings, row by row with a scale, and what each column comes to. */
const props = defineProps<{
  cells: GridCells;
  criterion: GridCriterion;
  facts: readonly ColumnFacts[];
  locked: boolean;
  referenceFor: (wavelengthNm: number, fiber?: number | null) => ClassReference | null;
}>();
const emit = defineEmits<{ focus: [] }>();
const { grid, isLoss, unit, parts, texts, problems, at, inputs, standing } = props.cells;
const { take, onEnter, onArrow, onPaste } = props.cells;

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
/** One scale for all rows: from zero to the limit, a little beyond it, or to the worst reading. */
const baseUnit = computed<Unit>(() => (props.criterion.kind === 'loss' ? 'dB' : props.criterion.unit));
const scale = computed(() => {
  const c = props.criterion;
  const limit =
    c.kind === 'loss'
      ? Math.max(...c.wavelengthsNm.map((nm) => termsOf(c, nm).limitDb))
      : Number(c.band.upper?.value ?? c.band.lower!.value);
  return { limit, to: Math.max(limit * 1.15, ...props.facts.map((f) => f.worst?.value ?? 0)) };
});
const marksOf = (row: number) =>
  grid.value.columns.flatMap((_, column) => {
    const found = parts.value.get(grid.value.partAt(row, column)!);
    const value = found ? partValue(found) : null;
    return value === null ? [] : [{ value, verdict: found!.verdict }];
  });
const say = (n: number | null): string => (n === null ? '' : n.toFixed(2));
</script>

<template>
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
              :aria-label="cellName(grid, row, column)"
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
            ><b>{{ say(f.worst.value) }}</b>{{ ' '
            }}<span class="soft small">fiber {{ f.worst.fiber }}</span></template
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
</template>

<style scoped>
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
  input {
    width: 78px;
  }
  td {
    padding-right: 8px;
  }
}
</style>
