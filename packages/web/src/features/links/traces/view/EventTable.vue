<script setup lang="ts">
import type { ListedEvent, TraceAnalysis } from '@clear-mark/core';
import { TRACE_EVENT_WORDS } from '@clear-mark/words';
import { computed } from 'vue';
import { usePreferences } from '../../../../shell/preferences.ts';
import { differenceWords, type EventRow, eventRows } from './event-rows.ts';
import { placeWords } from './trace-view.model.ts';

/** Our own events beside those that the file lists. */
const props = defineProps<{
  analysis: TraceAnalysis;
  table: readonly ListedEvent[];
  withinM: number;
  chosen: number | null;
}>();
const emit = defineEmits<{ choose: [event: number] }>();
const preferences = usePreferences();
const rows = computed(() => eventRows(props.analysis, props.table, props.withinM));
const listsAny = computed(() => props.table.length > 0);
const two = (x: number | null | undefined): string => (x === null || x === undefined ? '–' : x.toFixed(2));
const kindOf = ({ own, listed }: EventRow): string =>
  own ? (own.ghost ? 'ghost' : TRACE_EVENT_WORDS[own.kind]) : TRACE_EVENT_WORDS[listed!.kind];
const lossOf = ({ own, together }: EventRow): string => {
  if (!own || own.ghost || own.kind === 'end') return '–';
  if (own.lossDb !== null)
    return `${own.lossDb.toFixed(3)} ± ${Math.max(0.001, 2 * own.uLossDb!).toFixed(3)}`;
  return together ? `${together.lossDb.toFixed(3)}, ${together.count} as one` : 'not measurable';
};
</script>

<template>
  <el-table
    :data="rows"
    row-key="key"
    size="large"
    empty-text="No event is found on this trace."
    :row-class-name="
      ({ row }: { row: EventRow }) => (row.index !== null && row.index === chosen ? 'chosen' : '')
    "
    data-test="events"
    @row-click="(row: EventRow) => row.index !== null && emit('choose', row.index)"
  >
    <el-table-column label="No." width="60">
      <template #default="{ row }: { row: EventRow }">
        <b>{{ row.index === null ? '' : row.index + 1 }}</b>
      </template>
    </el-table-column>
    <el-table-column label="At" width="100" align="right">
      <template #default="{ row }: { row: EventRow }">{{
        placeWords(row.positionM, preferences.distanceUnit)
      }}</template>
    </el-table-column>
    <el-table-column label="What" min-width="150">
      <template #default="{ row }: { row: EventRow }">
        {{ kindOf(row) }}<template v-if="row.own?.saturated">, off the scale</template>
        <span
          v-if="
            row.own && !row.own.ghost && row.own.lossDb !== null && row.own.lossDb < -2 * row.own.uLossDb!
          "
          class="small"
        >
          (a gain: read it from both ends)</span
        >
      </template>
    </el-table-column>
    <el-table-column label="Loss, dB (k = 2)" width="160" align="right">
      <template #default="{ row }: { row: EventRow }">{{ lossOf(row) }}</template>
    </el-table-column>
    <el-table-column label="Dead zone" width="110" align="right">
      <template #default="{ row }: { row: EventRow }">
        {{
          row.own?.deadZoneM == null || row.own.ghost
            ? '–'
            : placeWords(row.own.deadZoneM, preferences.distanceUnit)
        }}
      </template>
    </el-table-column>
    <el-table-column label="Reflectance, dB" width="130" align="right">
      <template #default="{ row }: { row: EventRow }">
        {{
          row.own?.reflectanceDb == null
            ? '–'
            : `${row.own.saturated ? '≥ ' : ''}${row.own.reflectanceDb.toFixed(1)}`
        }}
      </template>
    </el-table-column>
    <el-table-column v-if="listsAny" label="File says, dB" width="120" align="right">
      <template #default="{ row }: { row: EventRow }">{{ two(row.listed?.lossDb) }}</template>
    </el-table-column>
    <el-table-column v-if="listsAny" label="Difference" min-width="140">
      <template #default="{ row }: { row: EventRow }">{{ differenceWords(row, listsAny) }}</template>
    </el-table-column>
  </el-table>
</template>

<style scoped>
:deep(.chosen > td) {
  background: var(--accent-wash);
}
</style>
