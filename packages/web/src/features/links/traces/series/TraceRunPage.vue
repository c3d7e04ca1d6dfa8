<script setup lang="ts">
import { type Call, MARK_KINDS, type Markers, type TraceMark, type TraceMarkKind } from '@clear-mark/core';
import type { FinishedTraceRun, OwnTraceSeries } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { computed, onMounted, ref, shallowRef } from 'vue';
import { request, ROUTES, wordsOf } from '../../../../api/client.ts';
import { useAct } from '../../../../api/queries.ts';
import { fetchBlindTrace } from '../../../../api/trace-files.ts';
import { useTraceFile } from '../use-trace-file.ts';
import MarkerPanel from '../view/MarkerPanel.vue';
import MarkKinds from '../view/MarkKinds.vue';
import MarkList from '../view/MarkList.vue';
import type { ShownTrace } from '../view/shown-trace.ts';
import TraceChart from '../view/TraceChart.vue';
import { markersIn } from '../view/trace-view.model.ts';
import FinishedTrace from './FinishedTrace.vue';
import { seriesWords } from './series-words.ts';

/** One trace after another, its events marked and itself called pass or fail, with no word of what is on it until the end. */
const props = defineProps<{ seriesId: string }>();
const series = shallowRef<OwnTraceSeries | null>(null);
const runId = ref<string | null>(null);
const answered = ref<ReadonlySet<number>>(new Set());
const position = ref(0);
const shown = shallowRef<ShownTrace | null>(null);
const kind = ref<TraceMarkKind | null>(MARK_KINDS[0]);
const marks = shallowRef<readonly TraceMark[]>([]);
const markers = shallowRef<Markers | null>(null);
const shownAt = ref(0);
const finished = shallowRef<FinishedTraceRun | null>(null);
const loading = ref<string | null>(null);
const { failure: fileFailure, opened } = useTraceFile();
const { act, busy, failure: actFailure } = useAct();
const failure = computed(() => loading.value ?? fileFailure.value ?? actFailure.value);

onMounted(async () => {
  try {
    const own = await request(ROUTES.ownTraceSeries, {});
    series.value = own.find((s) => s.id === props.seriesId) ?? null;
    if (!series.value) loading.value = 'There is no such series for you.';
    else if (series.value.run?.finished) {
      runId.value = series.value.run.id;
      await finish();
    }
  } catch (error) {
    loading.value = wordsOf(error);
  }
});
const begin = (): Promise<boolean> =>
  act(async () => {
    const run = await request(ROUTES.startTraceRun, { params: { id: props.seriesId }, body: { id: v7() } });
    runId.value = run.id;
    answered.value = new Set(run.answered);
    await next();
  });
/** The next trace without an answer; after the last one the end. */
async function next(): Promise<void> {
  [marks.value, markers.value, shown.value] = [[], null, null];
  const open = Array.from({ length: series.value?.traces ?? 0 }, (_, i) => i).find(
    (i) => !answered.value.has(i),
  );
  if (open === undefined) return finish();
  position.value = open;
  await load();
}
async function load(): Promise<void> {
  const file = await opened(() => fetchBlindTrace(runId.value!, position.value), true);
  if (!file) return;
  shown.value = { ...file.traces[0]!, key: String(position.value), label: `Trace ${position.value + 1}` };
  shownAt.value = performance.now();
}
const say = (said: Call): Promise<boolean> =>
  act(async () => {
    const ms = Math.round(performance.now() - shownAt.value);
    const body = { position: position.value, marks: [...marks.value], said, ms };
    await request(ROUTES.answerTrace, { params: { id: runId.value! }, body });
    answered.value = new Set([...answered.value, position.value]);
    await next();
  });
async function finish(): Promise<void> {
  finished.value = await request(ROUTES.finishTraceRun, { params: { id: runId.value! } });
}
function mark(positionM: number): void {
  if (kind.value)
    marks.value = [...marks.value, { positionM, kind: kind.value }].sort((a, b) => a.positionM - b.positionM);
}
function toggleMarkers(): void {
  const { trace } = shown.value!;
  markers.value = markers.value
    ? null
    : markersIn(trace.firstM, trace.firstM + trace.levelsDb.length * trace.spacingM);
}
</script>

<template>
  <div class="page">
    <p v-if="failure" class="notice bad" role="alert">
      {{ failure }}
      <el-button v-if="runId && !shown && !finished" size="large" @click="load">Try again</el-button>
    </p>
    <template v-if="series && runId === null">
      <h1>{{ series.label }}</h1>
      <p class="lead">
        {{ series.traces }} traces, one after another. Mark each event, its end, and what is a ghost; then
        call the trace pass or fail by 0.75 dB a connection and 0.3 dB a splice. You hear how you did at the
        end.
      </p>
      <el-button size="large" type="primary" class="big" :loading="busy" @click="begin">{{
        series.run ? 'Go on' : 'Begin'
      }}</el-button>
    </template>
    <template v-else-if="series && finished">
      <h1>{{ series.label }}</h1>
      <p>
        <b>{{ seriesWords(finished.result) }}.</b>
      </p>
      <p v-if="finished.attemptId" class="soft">
        It waits for an instructor’s signature, and then counts in loss testing.
      </p>
      <FinishedTrace v-for="r in finished.readings" :key="r.position" :run-id="runId!" :read="r" />
    </template>
    <template v-else-if="series && shown">
      <h1>Trace {{ position + 1 }} of {{ series.traces }}</h1>
      <TraceChart
        :key="shown.key"
        :traces="[shown]"
        :events="[]"
        :markers="markers"
        :marks="marks"
        :marking="true"
        :label="shown.label"
        @markers="markers = $event"
        @mark="mark"
      >
        <el-button size="large" :aria-pressed="markers !== null" @click="toggleMarkers"
          >Markers A and B</el-button
        >
        <span class="soft">{{ Math.round(shown.trace.wavelengthNm) }} nm, {{ shown.trace.pulseNs }} ns</span>
      </TraceChart>
      <MarkerPanel v-if="markers" :shown="shown" :markers="markers" />
      <MarkKinds v-model="kind" />
      <MarkList v-model="marks" />
      <div class="row">
        <el-button size="large" class="big" :loading="busy" @click="say('pass')">It passes</el-button>
        <el-button size="large" class="big" :loading="busy" @click="say('fail')">It fails</el-button>
      </div>
    </template>
  </div>
</template>

<style scoped>
.lead {
  max-width: 66ch;
}
.big {
  min-width: 150px;
  min-height: 56px;
}
</style>
