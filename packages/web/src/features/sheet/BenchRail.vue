<script setup lang="ts">
import type { BoardTile } from '@clear-mark/contract';
import { onMounted, onUnmounted, ref, shallowRef } from 'vue';
import { useRouter } from 'vue-router';
import { call, ROUTES } from '../../api/client.ts';
import VerdictRing from '../../shared/VerdictRing.vue';

const props = defineProps<{ classId: string; attemptId: string }>();
const router = useRouter();
const tiles = shallowRef<readonly BoardTile[]>([]);
const failed = ref(false);
const REFRESH_MS = 20_000;
let timer: ReturnType<typeof setInterval> | null = null;

async function refresh(): Promise<void> {
  try {
    tiles.value = (await call(ROUTES.board, { params: { id: props.classId } })).tiles;
    failed.value = false;
  } catch {
    failed.value = true;
  }
}
function open(tile: BoardTile): void {
  if (tile.open)
    void router.push({ name: 'sheet', params: { classId: props.classId, attemptId: tile.open.attemptId } });
  else
    void router.push({ name: 'today', params: { classId: props.classId }, query: { start: tile.traineeId } });
}
/** To the next bench at work, round the class. */
function step(by: 1 | -1): void {
  const working = tiles.value.filter((t) => t.open);
  if (working.length === 0) return;
  const at = working.findIndex((t) => t.open?.attemptId === props.attemptId);
  open(working[(at + by + working.length) % working.length]!);
}
defineExpose({ step, refresh });

const initials = (name: string): string =>
  name
    .split(/\s+/)
    .map((part) => part[0])
    .join('')
    .slice(0, 2);
onMounted(() => {
  void refresh();
  timer = setInterval(() => void refresh(), REFRESH_MS);
});
onUnmounted(() => {
  if (timer) clearInterval(timer);
});
</script>

<template>
  <nav class="benches" aria-label="Benches">
    <button
      v-for="tile in tiles"
      :key="tile.traineeId"
      class="bench"
      :class="{ here: tile.open?.attemptId === attemptId, idle: !tile.open }"
      type="button"
      :aria-current="tile.open?.attemptId === attemptId ? 'true' : undefined"
      :aria-label="`${tile.traineeName}${tile.open ? '' : ', nothing open'}`"
      :title="tile.traineeName"
      @click="open(tile)"
    >
      <VerdictRing v-if="tile.open" :verdict="tile.open.verdict" :share="tile.open.share" :size="30" />
      <span v-else class="none" aria-hidden="true" />
      <span>{{ initials(tile.traineeName) }}</span>
    </button>
  </nav>
</template>

<style scoped>
.benches {
  display: flex;
  flex-direction: column;
}
.bench {
  flex: none;
  width: 83px;
  min-height: 56px;
  display: flex;
  align-items: center;
  justify-content: flex-start;
  padding: 0 0 0 7px;
  gap: 7px;
  border: 0;
  border-left: 4px solid transparent;
  background: transparent;
  cursor: pointer;
  font-weight: 700;
}
.bench:hover {
  background: var(--sunk);
}
.here {
  border-left-color: var(--accent);
  background: var(--accent-wash);
}
.idle {
  color: var(--ink-soft);
  font-weight: 400;
}
.none {
  width: 30px;
  height: 30px;
  display: inline-block;
  border-radius: 50%;
  border: 1px solid var(--hair-strong);
  transform: scale(0.7);
}
@media (max-width: 1000px) {
  .benches {
    flex-direction: row;
    overflow-x: auto;
  }
  .bench {
    width: 76px;
    border-left: 0;
    border-bottom: 4px solid transparent;
  }
  .here {
    border-bottom-color: var(--accent);
  }
}
</style>
