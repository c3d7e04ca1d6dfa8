<script setup lang="ts">
import { MARK_KINDS, type TraceMark, type TraceMarkKind } from '@clear-mark/core';
import type { JudgedTraceReading, TraceRow } from '@clear-mark/contract';
import { ref, shallowRef, watch } from 'vue';
import { request, ROUTES } from '../../../api/client.ts';
import { useAct } from '../../../api/queries.ts';
import MarkList from './view/MarkList.vue';
import MarkKinds from './view/MarkKinds.vue';
import ReadingResult from './view/ReadingResult.vue';

/** The trainee reads the trace: events marked without help, then held against ours and put on the sheet that it is kept with. */
const props = defineProps<{ classId: string; row: TraceRow }>();
const marking = defineModel<TraceMarkKind | null>('marking', { required: true });
const marks = defineModel<readonly TraceMark[]>('marks', { required: true });
const { act, failure, busy } = useAct();
const lossDb = ref<number | undefined>();
const judged = shallowRef<JudgedTraceReading | null>(null);
watch(marks, () => (judged.value = null));

async function compare(): Promise<void> {
  await act(async () => {
    judged.value = await request(ROUTES.readTrace, {
      params: { id: props.classId, traceId: props.row.id },
      body: { marks: [...marks.value], lossDb: lossDb.value ?? null },
    });
    marking.value = null;
  });
}
</script>

<template>
  <section class="section" data-test="reading">
    <h2>Read by a trainee</h2>
    <div v-if="marking === null" class="row">
      <el-button size="large" @click="marking = MARK_KINDS[0]">
        {{ marks.length > 0 ? 'Go on marking' : 'Let a trainee mark the events' }}
      </el-button>
      <el-button v-if="marks.length > 0" size="large" @click="((marks = []), (judged = null))"
        >Clear the marks</el-button
      >
      <span class="soft">Our own events are hidden meanwhile.</span>
    </div>
    <template v-else>
      <MarkKinds v-model="marking" />
      <MarkList v-model="marks" />
      <div class="row">
        <label class="row"
          ><span>Loss of the link as read, dB</span
          ><el-input-number
            v-model="lossDb"
            size="large"
            :precision="2"
            :controls="false"
            aria-label="Loss of the link as read, dB"
        /></label>
        <el-button size="large" type="primary" :loading="busy" :disabled="marks.length === 0" @click="compare"
          >Compare</el-button
        >
        <el-button size="large" @click="marking = null">Cancel</el-button>
      </div>
    </template>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <template v-if="judged">
      <ReadingResult :reading="judged.reading" :marks="marks" />
      <p v-if="judged.linkLossDb !== null && lossDb !== undefined">
        Loss of the link: read {{ lossDb.toFixed(2) }} dB, computed {{ judged.linkLossDb.toFixed(2) }} dB.
      </p>
      <p v-if="judged.entered > 0" class="row">
        <span>{{ judged.entered }} values are on its sheet.</span>
        <RouterLink class="act" :to="{ name: 'sheet', params: { classId, attemptId: row.attemptId! } }"
          >To the sheet</RouterLink
        >
      </p>
      <p v-else-if="row.attemptId === null" class="soft">
        Keep the trace with a piece of the method OTDR test of a link, and these figures go onto its sheet.
      </p>
    </template>
  </section>
</template>
