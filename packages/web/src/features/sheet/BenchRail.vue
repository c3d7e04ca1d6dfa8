<script setup lang="ts">
import { computed } from 'vue';
import { useRouter } from 'vue-router';
import { initials } from '../../shared/initials.ts';
import VerdictRing from '../../shared/VerdictRing.vue';
import { useClassroom } from '../../classroom/use-classroom.ts';
import { useLiveOutcomes } from '../../classroom/live-outcomes.ts';

const props = defineProps<{ classId: string; attemptId: string }>();
const router = useRouter();
const classroom = useClassroom();
const live = useLiveOutcomes();

/** A place for every trainee; one with several pieces open has the one of this sheet, or else the newest. */
const places = computed(() =>
  (classroom.tiles ?? []).map((tile) => {
    const open = live.attempts.filter((a) => a.attempt.traineeId === tile.traineeId);
    return { tile, open: open.find((a) => a.attempt.id === props.attemptId) ?? open[0] ?? null };
  }),
);
type Place = (typeof places.value)[number];

function open({ tile, open: at }: Place): void {
  const params = { classId: props.classId };
  if (at) void router.push({ name: 'sheet', params: { ...params, attemptId: at.attempt.id } });
  else void router.push({ name: 'today', params, query: { start: tile.traineeId } });
}
/** To the next piece at work, round the class. */
function step(by: 1 | -1): void {
  const working = places.value.filter((p) => p.open);
  if (working.length === 0) return;
  const at = working.findIndex((p) => p.open!.attempt.id === props.attemptId);
  open(working[(at + by + working.length) % working.length]!);
}
defineExpose({ step });

const words = ({ tile, open: at }: Place): string =>
  `${tile.traineeName}${at ? (at.hand ? ', calls' : '') : ', nothing open'}`;
</script>

<template>
  <nav class="benches" aria-label="Benches">
    <button
      v-for="place in places"
      :key="place.tile.traineeId"
      class="bench"
      :class="{ here: place.open?.attempt.id === attemptId, idle: !place.open, calls: place.open?.hand }"
      type="button"
      :aria-current="place.open?.attempt.id === attemptId ? 'true' : undefined"
      :aria-label="words(place)"
      :title="place.tile.traineeName"
      @click="open(place)"
    >
      <VerdictRing
        v-if="place.open"
        :verdict="place.open.outcome.verdict"
        :share="place.open.outcome.share"
        :size="30"
      />
      <span v-else class="none" aria-hidden="true" />
      <span>{{ initials(place.tile.traineeName).slice(0, 2) }}</span>
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
.calls span:last-child {
  background: var(--accent);
  color: var(--accent-ink);
  border-radius: 4px;
  padding: 2px 5px;
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
