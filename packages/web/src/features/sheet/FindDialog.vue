<script setup lang="ts">
import type { BoardTile } from '@clear-mark/contract';
import { computed, onMounted, ref, shallowRef } from 'vue';
import { useRouter } from 'vue-router';
import { call, ROUTES, wordsOf } from '../../api/client.ts';
import VerdictRing from '../../shared/VerdictRing.vue';

const props = defineProps<{ classId: string }>();
const emit = defineEmits<{ close: [] }>();
const router = useRouter();
const tiles = shallowRef<readonly BoardTile[]>([]);
const text = ref('');
const failure = ref<string | null>(null);
const fold = (s: string): string => s.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase();

/** Trainees by name, and today's pieces by label. */
const hits = computed(() => {
  const wanted = fold(text.value.trim());
  return tiles.value
    .flatMap((t) => [
      {
        key: t.traineeId,
        name: t.traineeName,
        piece: t.open?.pieceLabel ?? null,
        attemptId: t.open?.attemptId ?? null,
        verdict: t.open?.verdict ?? null,
      },
      ...t.today.map((p) => ({
        key: p.attemptId,
        name: t.traineeName,
        piece: p.pieceLabel,
        attemptId: p.attemptId,
        verdict: p.verdict,
      })),
    ])
    .filter((h) => fold(`${h.name} ${h.piece ?? ''}`).includes(wanted))
    .slice(0, 8);
});

onMounted(async () => {
  try {
    tiles.value = (await call(ROUTES.board, { params: { id: props.classId } })).tiles;
  } catch (error) {
    failure.value = wordsOf(error);
  }
});

function open(hit: (typeof hits.value)[number] | undefined): void {
  if (!hit) return;
  emit('close');
  const params = { classId: props.classId };
  void router.push(
    hit.attemptId
      ? { name: 'sheet', params: { ...params, attemptId: hit.attemptId } }
      : { name: 'today', params, query: { start: hit.key } },
  );
}
</script>

<template>
  <el-dialog :model-value="true" title="Find" width="520" append-to-body @close="emit('close')">
    <el-input
      v-model="text"
      autofocus
      aria-label="Trainee or piece"
      placeholder="Trainee or piece label"
      @keydown.enter="open(hits[0])"
    />
    <p v-if="failure" class="notice bad">{{ failure }}</p>
    <button v-for="hit in hits" :key="hit.key" class="hit" type="button" @click="open(hit)">
      <VerdictRing v-if="hit.verdict" :verdict="hit.verdict" :share="0" :size="22" />
      <b>{{ hit.name }}</b><span class="soft">{{ hit.piece ?? 'start a piece' }}</span>
    </button>
    <p v-if="hits.length === 0 && !failure" class="soft">Nobody and nothing here is called that.</p>
  </el-dialog>
</template>

<style scoped>
.hit {
  display: flex;
  gap: 10px;
  align-items: center;
  width: 100%;
  min-height: var(--tap);
  border: 0;
  border-bottom: 1px solid var(--hair);
  background: none;
  text-align: left;
  cursor: pointer;
}
.hit:hover {
  background: var(--sunk);
}
</style>
