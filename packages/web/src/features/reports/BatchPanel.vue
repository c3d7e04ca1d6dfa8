<script setup lang="ts">
import type { Paper } from '@clear-mark/paper';
import { REPORT_BATCH_PATH, type ReportBatch } from '@clear-mark/contract';
import { useIntervalFn } from '@vueuse/core';
import { v7 } from 'uuid';
import { computed, shallowRef, watch } from 'vue';
import { pathOf, request, ROUTES, wordsOf } from '../../api/client.ts';
import { useAct, useReply } from '../../api/queries.ts';

/** All reports of the class as one file, made on the server: it goes on whatever becomes of this page. */
const props = defineProps<{ classId: string; paper: Paper }>();
const ASK_MS = 700;
const params = computed(() => ({ id: props.classId }));
const { found, failure: unread } = useReply(ROUTES.newestReportBatch, () => ({ params: params.value }));
const batch = shallowRef<ReportBatch | null>(null);
const lost = shallowRef<string | null>(null);
const { failure, busy, act } = useAct();
const place = computed(() => ({ ...params.value, batchId: batch.value?.id ?? '' }));

const asking = useIntervalFn(
  async () => {
    try {
      batch.value = await request(ROUTES.reportBatch, { params: place.value });
      lost.value = null;
    } catch (error) {
      lost.value = wordsOf(error);
    }
  },
  ASK_MS,
  { immediate: false },
);
watch(found, (newest) => (batch.value ??= newest), { immediate: true });
watch(
  () => batch.value?.state,
  (state) => (state === 'running' ? asking.resume() : asking.pause()),
  { immediate: true },
);

const start = (): Promise<boolean> =>
  act(async () => {
    const body = { id: v7(), paper: props.paper, locale: navigator.language };
    batch.value = await request(ROUTES.startReportBatch, { params: params.value, body });
  });
const cancel = (): Promise<boolean> =>
  act(async () => {
    await request(ROUTES.cancelReportBatch, { params: place.value });
    batch.value = await request(ROUTES.reportBatch, { params: place.value });
  });
</script>

<template>
  <div class="batch">
    <template v-if="batch?.state === 'running'">
      <el-progress
        :percentage="Math.round((100 * batch.done) / batch.total)"
        :format="() => `${batch?.done} of ${batch?.total} reports`"
        :stroke-width="12"
        class="bar"
      />
      <el-button size="large" :disabled="busy" @click="cancel">Cancel</el-button>
    </template>
    <template v-else>
      <el-button size="large" :disabled="busy" @click="start"
        >Class report and every record as a ZIP</el-button
      >
      <a v-if="batch?.state === 'done'" class="act" :href="pathOf(REPORT_BATCH_PATH, place)" download
        >Save the {{ batch.total }} reports</a
      >
      <span v-else-if="batch?.state === 'cancelled'" class="soft">Cancelled.</span>
      <span v-else-if="batch?.state === 'failed'" class="bad"
        >The server could not make them. Start again.</span
      >
    </template>
    <p v-if="unread ?? failure ?? lost" class="notice bad" role="alert">{{ unread ?? failure ?? lost }}</p>
  </div>
</template>

<style scoped>
.batch {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 14px;
  align-items: center;
  min-height: var(--tap);
  margin-bottom: 14px;
}
.bar {
  width: min(100%, 420px);
}
@media print {
  .batch {
    display: none;
  }
}
</style>
