<script setup lang="ts">
import { computed } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { ROUTES } from '../../../api/client.ts';
import { useReply } from '../../../api/queries.ts';
import { useClassroom } from '../../../classroom/use-classroom.ts';
import TraceList from './TraceList.vue';
import TracePage from './TracePage.vue';
import TraceSeriesSection from './series/TraceSeriesSection.vue';
import TraceSources from './TraceSources.vue';

/** The traces of the class; one or several of them opened, as the address says. */
const props = defineProps<{ classId: string }>();
const route = useRoute();
const router = useRouter();
const classroom = useClassroom();
const {
  found: rows,
  failure,
  again,
  put,
} = useReply(ROUTES.traces, () => ({ params: { id: props.classId } }));
const asked = computed(() =>
  String(route.query['trace'] ?? '')
    .split(',')
    .filter((id) => id !== ''),
);
const opened = computed(() => asked.value.flatMap((id) => rows.value?.find((r) => r.id === id) ?? []));
/** The piece that what is kept now belongs to. */
const attemptId = computed(() => (route.query['attempt'] ? String(route.query['attempt']) : null));
const attempt = computed(() => classroom.attempts.get(attemptId.value ?? '') ?? null);
const links = computed(() => (classroom.detail?.links ?? []).filter((l) => !l.retired));

const open = (ids: readonly string[]): void =>
  void router.push({ query: { ...route.query, trace: ids.length > 0 ? ids.join(',') : undefined } });
async function taken(id: string): Promise<void> {
  await again();
  open([id]);
}
</script>

<template>
  <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
  <TracePage
    v-if="opened.length > 0 && opened.length === asked.length"
    :key="asked.join()"
    :class-id="classId"
    :rows="opened"
    :links="links"
    @close="open([])"
    @described="(row) => put((rows ?? []).map((r) => (r.id === row.id ? row : r)))"
  />
  <template v-else>
    <p v-if="asked.length > 0 && rows" class="notice">
      That trace is not here. These are the traces of the class.
    </p>
    <p v-if="attemptId" class="notice row">
      <span>
        What is kept now goes with
        {{ attempt ? `${attempt.traineeName}, ${attempt.pieceLabel}` : 'the piece that it was asked for' }}.
      </span>
      <RouterLink class="act" :to="{ name: 'sheet', params: { classId, attemptId } }"
        >Back to its sheet</RouterLink
      >
    </p>
    <TraceSources
      :class-id="classId"
      :links="links"
      :attempt-id="attempt ? attemptId : null"
      @kept="again"
      @taken="taken"
    />
    <TraceList v-if="rows" :rows="rows" @open="open" />
    <el-skeleton v-else-if="!failure" :rows="5" animated />
    <TraceSeriesSection v-if="rows" :class-id="classId" :rows="rows" @made="again" />
  </template>
</template>
