<script setup lang="ts">
import type { BoardTile } from '@clear-mark/contract';
import { computed, onMounted, onUnmounted, ref, shallowRef, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { call, ROUTES, wordsOf } from '../../api/client.ts';
import BenchTile from './BenchTile.vue';
import StartDialog from './StartDialog.vue';

const props = defineProps<{ classId: string }>();
const route = useRoute();
const router = useRouter();
const board = shallowRef<{ day: string; tiles: readonly BoardTile[] } | null>(null);
const failure = ref<string | null>(null);
const starting = ref<BoardTile | null>(null);
const REFRESH_MS = 15_000;
let timer: ReturnType<typeof setInterval> | null = null;

const working = computed(() => board.value?.tiles.filter((t) => t.open).length ?? 0);
const dayWords = computed(() =>
  board.value
    ? new Date(`${board.value.day}T12:00:00Z`).toLocaleDateString([], {
        weekday: 'long',
        day: 'numeric',
        month: 'long',
      })
    : '',
);

async function refresh(): Promise<void> {
  try {
    board.value = await call(ROUTES.board, { params: { id: props.classId } });
    failure.value = null;
  } catch (error) {
    failure.value = wordsOf(error);
  }
}
function open(tile: BoardTile): void {
  if (!tile.open) starting.value = tile;
  else
    void router.push({ name: 'sheet', params: { classId: props.classId, attemptId: tile.open.attemptId } });
}
function done(): void {
  starting.value = null;
  if (route.query['start'] !== undefined) void router.replace({ query: {} });
}
watch(
  [board, () => route.query['start']],
  ([now, id]) => {
    if (typeof id === 'string' && now && !starting.value) {
      starting.value = now.tiles.find((t) => t.traineeId === id) ?? null;
    }
  },
  { immediate: true },
);
onMounted(() => {
  void refresh();
  timer = setInterval(() => void refresh(), REFRESH_MS);
});
onUnmounted(() => {
  if (timer) clearInterval(timer);
});
</script>

<template>
  <div class="page">
    <div class="row spread head">
      <div>
        <h1>Today</h1>
        <p v-if="board" class="soft">{{ dayWords }} · {{ working }} of {{ board.tiles.length }} at work</p>
      </div>
    </div>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <p v-if="board && board.tiles.length === 0" class="empty">
      No trainees in this class yet.
      <RouterLink class="act next" :to="{ name: 'setup', params: { classId } }">Enter the class</RouterLink>
    </p>
    <div v-if="board" class="tiles">
      <BenchTile
        v-for="tile in board.tiles"
        :key="tile.traineeId"
        :tile="tile"
        :class-id="classId"
        @open="open(tile)"
      />
    </div>
    <StartDialog v-if="starting" :class-id="classId" :tile="starting" @close="done" />
  </div>
</template>

<style scoped>
.head {
  margin-bottom: 14px;
}
.tiles {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(270px, 1fr));
  gap: 0 20px;
}
.empty {
  display: grid;
  gap: 12px;
  justify-items: start;
  padding: 40px 0;
  font-size: 1.125rem;
}
</style>
