<script setup lang="ts">
import { DAY_CALENDAR_PATH, type DayPlanBody } from '@clear-mark/contract';
import { instantOf, minuteOf } from '@clear-mark/core';
import { useEventListener } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { pathOf } from '../../../api/client.ts';
import DayField from '../../../shared/DayField.vue';
import { initials } from '../../../shared/initials.ts';
import { timeOfDay } from '../../../shared/time-words.ts';
import { useBehind } from '../now/use-behind.ts';
import { useAskedDay } from '../use-asked-day.ts';
import { useDay } from '../use-day.ts';
import type { FromNow } from './day-draft.model.ts';
import { type Block, boardRows, lockTurned, movedTo, wrongSteps } from './board.model.ts';
import DayBoard from './DayBoard.vue';
import DayFindings from './DayFindings.vue';
import DayPieces from './DayPieces.vue';
import DaySetup from './DaySetup.vue';
import DifferentDialog from './DifferentDialog.vue';

/** A day planned: what is wanted, what there is, and the board that comes of it. */
const props = defineProps<{ classId: string }>();
const { day, open } = useAskedDay();
const state = useDay(
  () => props.classId,
  () => day.value,
);
const { detail, stock, methods, draft, faults, over, refused, planner } = state;
const { progress, moved, tried, tookMs } = planner;
const route = useRoute();
const router = useRouter();
const isDifferent = ref(false);
const failure = computed(() => refused.value ?? state.reply.failure.value);
const nameOf = (id: string): string =>
  detail.value?.trainees.find((t) => t.id === id)?.name ?? 'Somebody who left';
const names = {
  nameOf,
  shortOf: (id: string) => initials(nameOf(id)),
  labelOf: (id: string) => detail.value?.things.find((t) => t.id === id)?.label ?? 'Taken out of use',
  titleOf: (id: string) => methods.value?.find((m) => m.versionId === id)?.title ?? '',
};
const wrong = computed(() => (draft.value ? wrongSteps(draft.value, faults.value) : new Set<string>()));
const movedKeys = computed(() => new Set(moved.value.map((m) => `${m.pieceId} ${m.step}`)));
const rows = computed(() =>
  draft.value?.plan ? boardRows(draft.value, names, { wrong: wrong.value, moved: movedKeys.value }) : [],
);
const clock = (minute: number): string => (draft.value ? timeOfDay(instantOf(draft.value, minute)) : '');
const change = (next: DayPlanBody): void => state.change(next);
function move(block: Block, from: number, thingId: string | null): void {
  if (draft.value) change(movedTo(draft.value, block, from, thingId));
}
function lock(block: Block): void {
  if (draft.value) change(lockTurned(draft.value, block));
}
/** Now as a minute of the day; null on another day. */
function minuteNow(): number | null {
  if (!draft.value) return null;
  const minute = minuteOf(draft.value, new Date().toISOString());
  const ends = minuteOf(draft.value, draft.value.hours.at(-1)!.to);
  return minute > 0 && minute < ends ? minute : null;
}
const behind = useBehind(
  () => draft.value,
  minuteNow,
  () => state.reply.found.value?.signed ?? [],
  () => methods.value ?? [],
);
/** From Now: what came differently, as soon as all that it is read from is here. */
const isAsked = computed(() => route.query['differently'] === 'yes');
watch(
  () => isAsked.value && draft.value !== null && methods.value !== null && detail.value !== null,
  (isReady) => {
    if (!isReady) return;
    isDifferent.value = true;
    void router.replace({ query: { ...route.query, differently: undefined } });
  },
  { immediate: true },
);
function different(next: DayPlanBody, from: FromNow): void {
  isDifferent.value = false;
  change(next);
  planner.replan(from);
}
useEventListener(window, 'keydown', (event) => {
  const isTyping =
    event.target instanceof HTMLElement && event.target.closest('input, textarea, [role="combobox"]');
  if (!(event.ctrlKey || event.metaKey) || event.key !== 'z' || isTyping) return;
  event.preventDefault();
  state.undo();
});
const print = (): void => window.print();
</script>

<template>
  <section class="section">
    <div class="row spread head">
      <div class="row">
        <DayField class="tools" :model-value="day" label="Day" @update:model-value="open" />
        <div v-if="draft" class="said">
          <b v-if="draft.plan && draft.plan.work.length > 0" data-test="ends"
            >Ends at {{ clock(draft.plan.endsAt) }}</b
          >
          <b v-else>Not planned yet</b>
          <span class="soft small" data-test="saved">{{
            state.isDirty.value ? 'saving' : draft.version > 0 ? 'saved' : ''
          }}</span>
        </div>
      </div>
      <div v-if="draft" class="row tools">
        <el-button v-if="progress !== null" size="large" @click="planner.stop">Stop, keep the best</el-button>
        <el-button
          v-else
          size="large"
          :type="draft.plan ? 'default' : 'primary'"
          :disabled="draft.pieces.length === 0"
          data-test="plan"
          @click="planner.plan"
          >{{ draft.plan ? 'Plan anew' : 'Plan the day' }}</el-button
        >
        <el-button size="large" :disabled="!draft.plan" data-test="different" @click="isDifferent = true"
          >It came differently</el-button
        >
        <el-button
          size="large"
          :disabled="!state.canUndo.value"
          title="Ctrl Z"
          data-test="undo-day"
          @click="state.undo"
          >Undo</el-button
        >
        <el-button size="large" :disabled="!draft.plan" @click="print">Print</el-button>
        <a
          v-if="draft.version > 0"
          class="act"
          :href="pathOf(DAY_CALENDAR_PATH, { id: classId, day })"
          download
          >Calendar file</a
        >
      </div>
    </div>
    <p v-if="failure" class="notice bad" role="alert">
      {{ failure }}
      <el-button size="large" @click="state.reload">Show it as it is saved</el-button>
    </p>
    <el-progress v-if="progress !== null" :percentage="Math.round(progress * 100)" :stroke-width="10" />
    <el-skeleton v-if="!draft && !failure" :rows="8" animated />
    <template v-if="draft && detail && stock && methods">
      <DayFindings
        :day="draft"
        :items="stock.items"
        :shorts="state.shorts.value"
        :faults="faults"
        :over="over"
        :moved="moved"
        :tried="tried"
        :clashes="state.reply.found.value?.clashes ?? []"
        :busy="progress !== null"
        :names="names"
        :clock="clock"
        :took-ms="tookMs"
        @fit="planner.replan()"
        @ask-changes="planner.askChanges"
      />
      <DayBoard
        v-if="draft.plan && rows.length > 0"
        :day="draft"
        :rows="rows"
        :clock="clock"
        :now="minuteNow()"
        @move="move"
        @lock="lock"
      />
      <DayPieces
        :class-id="classId"
        :day="draft"
        :methods="methods"
        :trainees="detail.trainees"
        :things="stock.things"
        @change="change"
      />
      <DaySetup :day="draft" :date="day" :detail="detail" :things="stock.things" @change="change" />
    </template>
    <DifferentDialog
      v-if="isDifferent && draft && detail"
      :day="draft"
      :detail="detail"
      :minute="minuteNow()"
      :clock="clock"
      :behind="behind"
      @close="isDifferent = false"
      @replan="different"
    />
  </section>
</template>

<style scoped>
.head {
  align-items: flex-end;
  gap: 8px 16px;
}
.said {
  display: grid;
  min-width: 150px;
}
.said b {
  font-size: 1.25rem;
}
@media print {
  .tools,
  .section :deep(.tools) {
    display: none;
  }
}
</style>
