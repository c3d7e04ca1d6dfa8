<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import VChart from 'vue-echarts';
import { type ChartTable, tableCsv } from './chart-file.ts';
import { download, fileName } from '../shared/save-file.ts';
import { useChartLook } from './chart-look.ts';
import { chartPlaces, placeAfter } from './chart-walk.ts';
import { withZoom } from './chart-zoom.ts';
import { type ChartOption, chartPng } from './echarts.ts';

/** The one doorway to charts: the drawing, the same as a table, and both as files. */
const props = defineProps<{
  option: ChartOption;
  /** What it shows, for the files and for those who cannot see it. */
  title: string;
  label: string;
  table: ChartTable;
  height?: number;
  /** The view around it has a table of its own. */
  ownTable?: boolean;
}>();
const emit = defineEmits<{ open: [event: { seriesIndex: number; dataIndex: number }] }>();
const look = useChartLook();
const place = ref<HTMLElement | null>(null);
const height = computed(() => props.height ?? 240);
const failure = ref<string | null>(null);
const drawn = computed(() => withZoom(props.option, look.value));

/** By the arrow keys from point to point: shown as on a tap, and read out; Enter opens what is there. */
const chart = ref<InstanceType<typeof VChart> | null>(null);
const places = computed(() => chartPlaces(props.option));
const at = ref(-1);
watch(places, () => (at.value = -1));
function key(event: KeyboardEvent): void {
  const here = places.value[at.value];
  if (event.key === 'Enter' && here) return emit('open', here);
  const next = event.ctrlKey || event.metaKey ? null : placeAfter(event.key, at.value, places.value.length);
  if (next === null) return;
  event.preventDefault();
  at.value = next;
  const to = places.value[next];
  chart.value?.dispatchAction(
    to ? { type: 'showTip', seriesIndex: to.seriesIndex, dataIndex: to.dataIndex } : { type: 'hideTip' },
  );
}

async function picture(): Promise<void> {
  failure.value = null;
  const { token } = look.value;
  const size = { width: place.value!.clientWidth, height: height.value };
  const ink = { ground: token('--sheet'), ink: token('--ink'), font: token('--font') };
  try {
    download(fileName(props.title, 'png'), await chartPng(props.option, size, props.title, ink));
  } catch {
    failure.value = 'The picture could not be made here. The figures still can.';
  }
}
function figures(): void {
  download(
    fileName(props.title, 'csv'),
    new Blob([tableCsv(props.table)], { type: 'text/csv;charset=utf-8' }),
  );
}
/** The twin for those who cannot see the chart; made when it is opened. */
const twinOpen = ref(false);
const alignOf = (column: number) => (typeof props.table.rows[0]?.[column] === 'number' ? 'right' : 'left');
const said = (value: string | number | null | undefined): string => String(value ?? '');
</script>

<template>
  <div ref="place" class="view">
    <div
      class="chart"
      tabindex="0"
      role="img"
      aria-roledescription="chart; arrow keys go from point to point"
      :aria-label="label"
      @keydown="key"
    >
      <VChart
        ref="chart"
        :style="{ height: `${height}px` }"
        :option="drawn"
        :init-options="{ renderer: 'svg' }"
        autoresize
        @click="emit('open', $event as never)"
      />
    </div>
    <p class="sr" aria-live="polite">{{ places[at]?.words }}</p>
    <div class="row files">
      <el-button size="large" text @click="picture">Picture (PNG)</el-button>
      <el-button size="large" text @click="figures">Figures (CSV)</el-button>
      <details v-if="!ownTable" @toggle="twinOpen = ($event.target as HTMLDetailsElement).open">
        <summary>As a table</summary>
        <div class="twin">
          <el-table
            v-if="twinOpen"
            :data="[...table.rows]"
            max-height="320"
            scrollbar-tabindex="0"
            size="small"
          >
            <el-table-column v-for="(h, j) in table.head" :key="h" :label="h" :align="alignOf(j)">
              <template #default="{ row }: { row: ChartTable['rows'][number] }">{{ said(row[j]) }}</template>
            </el-table-column>
          </el-table>
        </div>
      </details>
    </div>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
  </div>
</template>

<style scoped>
.chart:focus-visible {
  outline: 3px solid var(--accent);
  outline-offset: 2px;
}
.view {
  width: 100%;
  min-width: 0;
}
.files {
  gap: 4px;
  align-items: flex-start;
}
.files .el-button {
  margin: 0;
  padding: 0 10px 0 0;
  color: var(--accent);
}
.files details[open] {
  flex-basis: 100%;
}
.twin {
  max-width: 760px;
}
@media print {
  .files {
    display: none;
  }
}
</style>
