<script setup lang="ts">
import { DIRECTIONS } from '@clear-mark/core';
import type { ClassLink, TraceAbout, TraceRow } from '@clear-mark/contract';
import { DIRECTION_WORDS } from '@clear-mark/words';
import { computed } from 'vue';
import { request, ROUTES } from '../../../api/client.ts';
import { useAct } from '../../../api/queries.ts';
import { useClassroom } from '../../../classroom/use-classroom.ts';
import CordField from './CordField.vue';
import ChoiceField from '../../../shared/ChoiceField.vue';
import CommitField from '../../../shared/CommitField.vue';

/** What is said of a trace, put right as it is known; saved with each change. */
const props = defineProps<{ classId: string; row: TraceRow; links: readonly ClassLink[] }>();
const emit = defineEmits<{ described: [row: TraceRow] }>();
const classroom = useClassroom();
const { act, failure } = useAct();
const attempts = computed(() => {
  const open = [...classroom.attempts.values()]
    .map((a) => ({ value: a.id, label: `${a.traineeName}, ${a.pieceLabel}` }))
    .sort((a, b) => a.label.localeCompare(b.label));
  const gone = props.row.attemptId !== null && !open.some((a) => a.value === props.row.attemptId);
  return gone
    ? [{ value: props.row.attemptId!, label: `${props.row.traineeName}, ${props.row.pieceLabel}` }, ...open]
    : open;
});
function change(what: Partial<TraceAbout>): void {
  const { label, linkId, fiber, direction, launchM, receiveM, attemptId } = props.row;
  const body = { label, linkId, fiber, direction, launchM, receiveM, attemptId, ...what };
  void act(async () =>
    emit(
      'described',
      await request(ROUTES.describeTrace, { params: { id: props.classId, traceId: props.row.id }, body }),
    ),
  );
}
</script>

<template>
  <section class="section" aria-label="About this trace">
    <h2>About this trace</h2>
    <div class="fields">
      <CommitField label="Name" :value="row.label" @commit="(label: string) => change({ label })" />
      <ChoiceField
        label="Link"
        none="not said"
        :model-value="row.linkId ?? ''"
        :options="links.map((l) => ({ value: l.id, label: l.label }))"
        @change="(id) => change({ linkId: id === '' ? null : String(id) })"
      />
      <label class="field"
        ><span>Fiber</span
        ><el-input-number
          size="large"
          :model-value="row.fiber ?? undefined"
          :min="1"
          :max="3456"
          :precision="0"
          :controls="false"
          @change="(n: number | undefined) => change({ fiber: n ?? null })"
      /></label>
      <ChoiceField
        label="From"
        none="not said"
        :model-value="row.direction ?? ''"
        :options="DIRECTIONS.map((d) => ({ value: d as string, label: DIRECTION_WORDS[d] }))"
        @change="(d) => change({ direction: d === '' ? null : (d as never) })"
      />
      <CordField
        label="Launch cord"
        :model-value="row.launchM"
        @update:model-value="(launchM) => change({ launchM })"
      />
      <CordField
        label="Receive cord"
        :model-value="row.receiveM"
        @update:model-value="(receiveM) => change({ receiveM })"
      />
      <ChoiceField
        label="Kept with"
        none="by itself"
        :model-value="row.attemptId ?? ''"
        :options="attempts"
        @change="(id) => change({ attemptId: id === '' ? null : String(id) })"
      />
    </div>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
  </section>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(170px, 1fr));
  gap: 10px 16px;
  align-items: end;
}
.field {
  display: grid;
  gap: 2px;
}
.fields :deep(.choice),
.field :deep(.el-input-number) {
  width: 100%;
}
</style>
