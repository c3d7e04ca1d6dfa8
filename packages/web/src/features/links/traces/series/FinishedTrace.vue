<script setup lang="ts">
import type { FinishedTraceRun } from '@clear-mark/contract';
import { shallowRef } from 'vue';
import { fetchBlindTrace } from '../../../../api/trace-files.ts';
import { useTraceFile } from '../use-trace-file.ts';
import ReadingResult from '../view/ReadingResult.vue';
import type { ShownTrace } from '../view/shown-trace.ts';
import TraceChart from '../view/TraceChart.vue';

/** A trace of a finished series: what was said of it, and once it is asked for, what is on it. */
const props = defineProps<{ runId: string; read: FinishedTraceRun['readings'][number] }>();
const { failure, opened } = useTraceFile();
const shown = shallowRef<ShownTrace | null>(null);
async function show(): Promise<void> {
  const file = await opened(() => fetchBlindTrace(props.runId, props.read.position));
  if (file) shown.value = { ...file.traces[0]!, key: 'seen', label: `Trace ${props.read.position + 1}` };
}
</script>

<template>
  <section class="section">
    <div class="row spread">
      <h2>Trace {{ read.position + 1 }}</h2>
      <el-button v-if="!shown" size="large" @click="show">Show it with its events</el-button>
    </div>
    <p>
      It {{ read.reference === 'pass' ? 'passes' : 'fails'
      }}<template v-if="read.said">; you called it {{ read.said }}</template>.
    </p>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <TraceChart
      v-if="shown"
      :traces="[shown]"
      :events="shown.analysis?.events ?? []"
      :markers="null"
      :marks="read.marks"
      :marking="false"
      :label="shown.label"
    />
    <ReadingResult :reading="read.reading" :marks="read.marks" />
  </section>
</template>
