<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useClassroom } from '../../classroom/use-classroom.ts';
import type { LiveAttempt } from '../../classroom/live-outcomes.ts';
import { longDayText } from '../../shared/day-range.model.ts';
import BoardBar from './BoardBar.vue';
import BenchTile from './BenchTile.vue';
import StartDialog from './StartDialog.vue';
import { type Bench, classWords } from './today.model.ts';
import { useBoard } from './use-board.ts';

const props = defineProps<{ classId: string }>();
const route = useRoute();
const router = useRouter();
const classroom = useClassroom();
const board = useBoard();
const { benches, now } = board;
const starting = ref<Bench | null>(null);
const dayWords = computed(() => (classroom.day ? longDayText(classroom.day) : ''));

function open(bench: Bench, attempt: LiveAttempt | null): void {
  if (!attempt) starting.value = bench;
  else void router.push({ name: 'sheet', params: { classId: props.classId, attemptId: attempt.attempt.id } });
}
function done(): void {
  starting.value = null;
  if (route.query['start'] !== undefined) void router.replace({ query: {} });
}
watch(
  [benches, () => route.query['start']],
  ([list, id]) => {
    if (typeof id === 'string' && !starting.value) {
      starting.value = list.find((b) => b.tile.traineeId === id) ?? null;
    }
  },
  { immediate: true },
);
</script>

<template>
  <div class="page">
    <div class="head">
      <h1>Today</h1>
      <p class="soft">{{ dayWords }} · {{ classWords(benches) }}</p>
    </div>
    <p v-if="classroom.refusal" class="notice bad" role="alert">{{ classroom.refusal.message }}</p>
    <p v-else-if="classroom.connection === 'away'" class="notice" role="status" data-test="away">
      No network. Benches, sheets and methods of this class are here; what you enter is kept and sent later.
    </p>
    <p v-if="classroom.tiles?.length === 0" class="empty">
      No trainees in this class yet.
      <RouterLink class="act next" :to="{ name: 'setup', params: { classId } }">Enter the class</RouterLink>
    </p>
    <BoardBar
      v-if="benches.length > 0"
      :all="board.inGroup.value.length"
      :counts="board.counts.value"
      :filter="board.filter.value"
      :groups="board.groups.value"
      :group="board.group.value"
      :order="board.order.value"
      :room="board.room.value"
      @filter="board.wanted.value = $event"
      @group="board.group.value = $event"
      @order="board.setOrder"
      @room="board.setRoom"
    />
    <div class="tiles" :class="{ room: board.room.value }">
      <BenchTile
        v-for="{ bench, needs } in board.shown.value"
        :key="bench.tile.traineeId"
        :bench="bench"
        :needs="needs"
        :class-id="classId"
        :now="now"
        @open="open(bench, $event)"
      />
    </div>
    <StartDialog v-if="starting" :class-id="classId" :bench="starting" @close="done" />
  </div>
</template>

<style scoped>
.page {
  padding-top: 12px;
}
.head {
  display: flex;
  align-items: baseline;
  gap: 14px;
  margin-bottom: 8px;
}
.tiles {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(280px, 1fr));
  gap: 0 16px;
}
/* To be read from the other end of the room. */
.tiles.room {
  zoom: 1.4;
}
@media (max-width: 800px) {
  /* Three columns, so that a class of sixteen is on one screen upright. */
  .tiles {
    grid-template-columns: repeat(auto-fill, minmax(220px, 1fr));
    gap: 0 8px;
  }
}
.empty {
  display: grid;
  gap: 12px;
  justify-items: start;
  padding: 40px 0;
  font-size: 1.125rem;
}
</style>
