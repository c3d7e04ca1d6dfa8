<script setup lang="ts">
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import VerdictRing from '../../shared/VerdictRing.vue';
import { useClassroom } from '../../classroom/use-classroom.ts';
import { useLiveOutcomes } from '../../classroom/live-outcomes.ts';

const props = defineProps<{ classId: string; first?: string }>();
const emit = defineEmits<{ close: [] }>();
const router = useRouter();
const classroom = useClassroom();
const live = useLiveOutcomes();
const text = ref(props.first ?? '');
const fold = (s: string): string => s.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase();

/** Open pieces and today's signed ones by label or trainee, then trainees with nothing open. */
const hits = computed(() => {
  const wanted = fold(text.value.trim());
  return (classroom.tiles ?? [])
    .flatMap((t) => {
      const open = live.attempts.filter((a) => a.attempt.traineeId === t.traineeId);
      const name = t.traineeName;
      return [
        ...open.map(({ attempt, outcome }) => ({
          key: attempt.id,
          name,
          piece: attempt.pieceLabel,
          attemptId: attempt.id,
          verdict: outcome.verdict,
        })),
        ...t.today.map((p) => ({
          key: p.attemptId,
          name,
          piece: p.pieceLabel,
          attemptId: p.attemptId,
          verdict: p.verdict,
        })),
        ...(open.length === 0
          ? [{ key: t.traineeId, name, piece: null, attemptId: null, verdict: null }]
          : []),
      ];
    })
    .filter((h) => fold(`${h.name} ${h.piece ?? ''}`).includes(wanted))
    .slice(0, 8);
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
    <button v-for="hit in hits" :key="hit.key" class="hit" type="button" @click="open(hit)">
      <VerdictRing v-if="hit.verdict" :verdict="hit.verdict" :share="0" :size="22" />
      <b>{{ hit.name }}</b><span class="soft">{{ hit.piece ?? 'start a piece' }}</span>
    </button>
    <p v-if="hits.length === 0" class="soft">Nobody and nothing here is called that.</p>
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
