<script setup lang="ts">
import {
  linkOnTrace,
  type Markers,
  pulseMetres,
  sameEventM,
  type TraceMark,
  type TraceMarkKind,
  traceToCsv,
  traceToJson,
} from '@clear-mark/core';
import type { ClassLink, TraceRow } from '@clear-mark/contract';
import { computed, onMounted, ref, shallowRef } from 'vue';
import { request, ROUTES } from '../../../api/client.ts';
import { useAct } from '../../../api/queries.ts';
import { fetchTrace, traceUrl } from '../../../api/trace-files.ts';
import { download } from '../../../shared/save-file.ts';
import ActMenu from '../../../shared/ActMenu.vue';
import ReadingSection from './ReadingSection.vue';
import TraceAboutForm from './TraceAboutForm.vue';
import { type OpenedFile, useTraceFile } from './use-trace-file.ts';
import EventTable from './view/EventTable.vue';
import MarkerPanel from './view/MarkerPanel.vue';
import PlanTable from './view/PlanTable.vue';
import SeveralTraces from './view/SeveralTraces.vue';
import type { ShownTrace } from './view/shown-trace.ts';
import TraceChart from './view/TraceChart.vue';
import TraceStrip from './view/TraceStrip.vue';
import { markersAround, markersIn } from './view/trace-view.model.ts';

/** A trace opened, or several over each other: what is on it, what it says of its link, and what a trainee made of it. */
const props = defineProps<{ classId: string; rows: readonly TraceRow[]; links: readonly ClassLink[] }>();
const emit = defineEmits<{ close: []; described: [row: TraceRow] }>();
const { failure, opened } = useTraceFile();
const files = shallowRef<readonly OpenedFile[]>([]);
const which = ref(0);
const chosen = ref<number | null>(null);
const markers = shallowRef<Markers | null>(null);
const marks = shallowRef<readonly TraceMark[]>([]);
const marking = ref<TraceMarkKind | null>(null);
const chart = ref<InstanceType<typeof TraceChart> | null>(null);

onMounted(async () => {
  const found: OpenedFile[] = [];
  for (const row of props.rows) {
    const file = await opened(() => fetchTrace(props.classId, row.id));
    if (!file) return;
    found.push(file);
  }
  files.value = found;
});

const single = computed(() => props.rows.length === 1);
const row = computed(() => props.rows[0]!);
/** All traces of one file one by one, or the first of each of several files. */
const shown = computed((): ShownTrace[] => {
  if (files.value.length === 0) return [];
  if (!single.value) {
    return props.rows.map((r, i) => ({ ...files.value[i]!.traces[0]!, key: r.id, label: r.label }));
  }
  const trace = files.value[0]!.traces[which.value] ?? files.value[0]!.traces[0]!;
  return [{ ...trace, key: `${row.value.id}${which.value}`, label: row.value.label }];
});
const first = computed(() => shown.value[0] ?? null);
const analysis = computed(() => first.value?.analysis ?? null);
const range = computed(() =>
  analysis.value
    ? linkOnTrace(analysis.value, files.value[0]!.marksM, row.value.launchM, row.value.receiveM)
    : null,
);
const link = computed(() => props.links.find((l) => l.id === row.value.linkId) ?? null);
const withinM = computed(() => (first.value ? sameEventM(first.value.trace) : 1));

const fileNameOf = (label: string): string => (/\.(sor|csv|json)$/i.test(label) ? label : `${label}.sor`);
function saveAs(format: 'csv' | 'json'): void {
  const { trace } = first.value!;
  const text = format === 'csv' ? traceToCsv(trace) : traceToJson(trace);
  const type = format === 'csv' ? 'text/csv' : 'application/json';
  download(`${row.value.label.replace(/\.\w+$/, '')}.trace.${format}`, new Blob([text], { type }));
}
function choose(event: number): void {
  chosen.value = event;
  const found = analysis.value!;
  const at = found.events[event]!;
  const { trace } = first.value!;
  const around = Math.max(30, 20 * pulseMetres(trace));
  chart.value?.show(at.positionM - around, at.positionM + around);
  if (markers.value) markers.value = markersAround(trace, found, at, at);
}
const { act, busy, failure: markFailure } = useAct();
/** The link lies between the markers: what is before A is the launch cord, what is behind B the receive cord. */
function setLink({ aM, bM }: Markers): void {
  const { label, linkId, fiber, direction, attemptId } = row.value;
  const end = analysis.value!.events.find((e) => e.kind === 'end');
  const tenths = (m: number): number => Math.max(0, Math.round(m * 10) / 10);
  const cords = { launchM: tenths(aM), receiveM: end ? tenths(end.positionM - bM) : null };
  const body = { label, linkId, fiber, direction, attemptId, ...cords };
  const params = { id: props.classId, traceId: row.value.id };
  void act(async () => emit('described', await request(ROUTES.describeTrace, { params, body })));
}
/** On the link where it is known, else on the chosen event or the first one, else on the first stretch of fiber. */
function toggleMarkers(): void {
  if (markers.value) return void (markers.value = null);
  const { trace } = first.value!;
  const { events, lines } = analysis.value!;
  const near = (m: number) => events.find((e) => Math.abs(e.positionM - m) <= withinM.value);
  const some = events[chosen.value ?? -1] ?? events.find((e) => !e.ghost && e.kind !== 'end');
  const from = range.value ? near(range.value.fromM) : some;
  const to = range.value ? near(range.value.toM) : from;
  const fiber = lines[0] ?? {
    fromM: trace.firstM,
    toM: trace.firstM + trace.levelsDb.length * trace.spacingM,
  };
  markers.value =
    from && to ? markersAround(trace, analysis.value!, from, to) : markersIn(fiber.fromM, fiber.toM);
}
function mark(positionM: number): void {
  if (marking.value)
    marks.value = [...marks.value, { positionM, kind: marking.value }].sort(
      (a, b) => a.positionM - b.positionM,
    );
}
</script>

<template>
  <div class="row spread">
    <div class="row">
      <el-button size="large" @click="emit('close')">All traces</el-button>
      <h2 class="title">{{ single ? row.label : `${rows.length} traces over each other` }}</h2>
    </div>
    <div v-if="single" class="row">
      <a class="act" :href="traceUrl(classId, row.id)" :download="fileNameOf(row.label)">Save its file</a>
      <ActMenu
        v-if="first"
        label="Save as"
        :acts="[
          { value: 'csv', label: 'CSV' },
          { value: 'json', label: 'JSON' },
        ]"
        @choose="saveAs"
      />
    </div>
  </div>
  <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
  <el-skeleton v-else-if="!first" :rows="6" animated />
  <template v-if="first && analysis">
    <p v-if="single && files[0]!.traces.length > 1" class="row">
      <span>The file holds {{ files[0]!.traces.length }} traces:</span>
      <el-radio-group v-model="which" size="large">
        <el-radio-button v-for="(t, i) in files[0]!.traces" :key="i" :value="i"
          >{{ Math.round(t.trace.wavelengthNm) }} nm, {{ t.trace.pulseNs }} ns</el-radio-button
        >
      </el-radio-group>
    </p>
    <ul v-if="!single" class="legend">
      <li v-for="(t, i) in shown" :key="t.key">
        <svg width="34" height="10" aria-hidden="true"><path :class="`line-${i % 5}`" d="M1 5h32" /></svg
        >{{ t.label }}
      </li>
    </ul>
    <TraceChart
      ref="chart"
      :traces="shown"
      :events="marking ? [] : analysis.events"
      :markers="markers"
      :marks="marks"
      :marking="marking !== null"
      :label="`Trace ${first.label}, level in dB over distance, ${analysis.events.length} events`"
      @markers="markers = $event"
      @mark="mark"
      @event="choose"
    >
      <el-button size="large" :aria-pressed="markers !== null" @click="toggleMarkers"
        >Markers A and B</el-button
      >
      <span class="soft"
        >{{ Math.round(first.trace.wavelengthNm) }} nm, {{ first.trace.pulseNs }} ns, index
        {{ first.trace.groupIndex.toFixed(4) }}, {{ first.trace.levelsDb.length }} points</span
      >
    </TraceChart>
    <MarkerPanel v-if="markers" :shown="first" :markers="markers" />
    <p v-if="markers && single" class="row">
      <el-button size="large" :loading="busy" @click="setLink(markers)"
        >A and B are the ends of the link</el-button
      >
      <span v-if="markFailure" class="notice bad" role="alert">{{ markFailure }}</span>
    </p>
    <template v-if="marking === null">
      <TraceStrip
        :events="analysis.events"
        :spans="analysis.spans"
        :link="range"
        :chosen="chosen"
        @choose="choose"
      />
      <EventTable
        :analysis="analysis"
        :table="single ? files[0]!.table : []"
        :within-m="withinM"
        :chosen="chosen"
        @choose="choose"
      />
    </template>
    <template v-if="single">
      <ReadingSection v-model:marking="marking" v-model:marks="marks" :class-id="classId" :row="row" />
      <template v-if="marking === null">
        <PlanTable :shown="first" :range="range" :link="link" :launch-m="row.launchM" />
        <TraceAboutForm
          :class-id="classId"
          :row="row"
          :links="links"
          @described="emit('described', $event)"
        />
      </template>
    </template>
    <SeveralTraces v-else :traces="shown" :rows="rows" />
  </template>
</template>

<style scoped>
.title {
  margin: 0;
}
.legend {
  list-style: none;
  margin: 6px 0;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 6px 18px;
}
.legend li {
  display: flex;
  gap: 8px;
  align-items: center;
}
.legend path {
  stroke: var(--ink);
  stroke-width: 2.5;
}
.legend .line-1 {
  stroke: var(--accent);
}
.legend .line-2 {
  stroke: var(--ink-soft);
  stroke-dasharray: 7 3;
}
.legend .line-3 {
  stroke: var(--accent);
  stroke-dasharray: 2 3;
}
.legend .line-4 {
  stroke: var(--jacket);
}
</style>
