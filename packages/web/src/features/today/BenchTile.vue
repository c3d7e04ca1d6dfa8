<script setup lang="ts">
import { HAZARD_WORDS, shortMethodName, VERDICT_WORDS } from '@clear-mark/words';
import { computed } from 'vue';
import { agoWords, clockText } from '../../shared/time-words.ts';
import VerdictRing from '../../shared/VerdictRing.vue';
import { dueOf } from '../../classroom/timers.model.ts';
import { timers } from '../../shell/timers.ts';
import type { LiveAttempt } from '../../classroom/live-outcomes.ts';
import type { Need } from './needs.model.ts';
import type { Bench } from './today.model.ts';

/** One bench: who, which method and step, how far, what runs, who calls since when; one tap to its sheet. */
const props = defineProps<{ bench: Bench; needs: readonly Need[]; classId: string; now: number }>();
const emit = defineEmits<{ open: [attempt: LiveAttempt | null] }>();
const tile = computed(() => props.bench.tile);
const first = computed(() => props.bench.open[0] ?? null);
const others = computed(() => props.bench.open.slice(1));
const hand = computed(() => props.bench.open.find((a) => a.hand)?.hand ?? null);
const said = computed(() => props.needs.filter((n) => n.words !== ''));
const running = computed(() =>
  props.bench.open
    .flatMap((a) => a.timers)
    .map((timer) => ({ timer, due: dueOf(timer, timers.now.value) }))
    .sort((a, b) => a.due.at - b.due.at),
);
const idle = computed(() => {
  if (first.value) return '';
  const since = tile.value.lastSignedAt;
  return since === null ? 'nothing made yet' : `idle ${agoWords(Date.parse(since), props.now)}`;
});
function stepWords({ outcome, stepTitle }: LiveAttempt): string {
  const stop = outcome.stops?.[0];
  if (stop) return `Stopped: ${HAZARD_WORDS[stop.hazard].toLowerCase()}`;
  return outcome.verdict === 'incomplete' ? stepTitle : VERDICT_WORDS[outcome.verdict];
}
</script>

<template>
  <article class="tile" :class="{ working: first, calls: hand }" :data-trainee="tile.traineeName">
    <button class="main" type="button" @click="emit('open', first)">
      <VerdictRing v-if="first" :verdict="first.outcome.verdict" :share="first.outcome.share" :size="50" />
      <span v-else class="idle" aria-hidden="true">+</span>
      <span class="text">
        <span class="name">{{ tile.traineeName }}</span>
        <template v-if="first">
          <span class="what" :class="{ stopped: first.outcome.stops?.length }">{{ stepWords(first) }}</span>
          <span class="soft small method" :title="first.sheet.title">{{
            shortMethodName(first.sheet.id, first.sheet.title)
          }}</span>
          <span class="soft small"
            >{{ tile.benchLabel ?? 'no bench yet' }} · {{ first.stepNumber }} of
            {{ first.sheet.steps.length }} · {{ agoWords(Date.parse(first.attempt.startedAt), now) }}</span
          >
        </template>
        <template v-else>
          <span class="soft">Start a piece</span>
          <span class="soft small">{{ tile.benchLabel ?? 'no bench yet' }} · {{ idle }}</span>
        </template>
      </span>
    </button>
    <p v-if="hand" class="hand" role="status">Calls since {{ agoWords(Date.parse(hand.at), now) }}</p>
    <p v-for="need in said" :key="need.kind" class="need" :data-need="need.kind">{{ need.words }}</p>
    <p
      v-for="{ timer, due } in running.slice(0, 2)"
      :key="timer.id"
      class="running"
      :class="{ due: due.due }"
    >
      <b>{{ clockText(due.elapsed) }}</b> {{ timer.label }}, {{ due.words }}
    </p>
    <div v-if="others.length > 0 || tile.today.length > 0" class="pieces">
      <button v-for="a in others" :key="a.attempt.id" class="piece" type="button" @click="emit('open', a)">
        <VerdictRing :verdict="a.outcome.verdict" :share="a.outcome.share" :size="18" />
        {{ a.attempt.pieceLabel }}, open
      </button>
      <RouterLink
        v-for="piece in tile.today"
        :key="piece.attemptId"
        class="piece"
        :to="{ name: 'sheet', params: { classId, attemptId: piece.attemptId } }"
        ><VerdictRing :verdict="piece.verdict" :size="18" /> {{ piece.pieceLabel }}</RouterLink
      >
    </div>
  </article>
</template>

<style scoped>
.stopped {
  color: var(--fail);
  font-weight: 700;
}
.tile {
  border-top: 1px solid var(--hair);
  border-left: 4px solid transparent;
  padding: 4px 0 4px 2px;
  min-height: 118px;
}
.tile.calls {
  border-left-color: var(--accent);
  background: var(--accent-wash);
}
.main {
  width: 100%;
  display: flex;
  align-items: center;
  gap: 12px;
  border: 0;
  background: none;
  text-align: left;
  padding: 4px;
  min-height: 72px;
  cursor: pointer;
  border-radius: var(--round);
}
.main:hover {
  background: var(--sunk);
}
.idle {
  width: 50px;
  height: 50px;
  flex: none;
  display: grid;
  place-items: center;
  border: 1px solid var(--hair-strong);
  border-radius: 50%;
  color: var(--ink-soft);
  font-size: 1.5rem;
  transform: scale(0.8);
}
.text {
  display: grid;
  min-width: 0;
  line-height: 1.25;
}
.name {
  font-size: 1.125rem;
  font-weight: 700;
  overflow-wrap: anywhere;
}
.tile:not(.working) .name {
  font-weight: 400;
}
.method {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.hand {
  margin: 2px 8px 2px 66px;
  padding: 2px 10px;
  background: var(--accent);
  color: var(--accent-ink);
  font-weight: 700;
  border-radius: var(--round);
  width: fit-content;
}
.need {
  margin: 0;
  padding-left: 66px;
  font-weight: 700;
}
.running {
  padding-left: 66px;
  font-size: 0.9375rem;
}
.running.due {
  font-weight: 700;
}
.pieces {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
  padding-left: 66px;
}
.piece {
  display: inline-flex;
  align-items: center;
  gap: 5px;
  min-height: 32px;
  border: 0;
  background: none;
  padding: 0;
  color: var(--ink-soft);
  font-size: 0.9375rem;
  text-decoration: none;
  cursor: pointer;
}
.piece:hover {
  color: var(--ink);
  text-decoration: underline;
}
@media (max-width: 800px) {
  .main {
    gap: 8px;
  }
  .main :deep(svg) {
    width: 40px;
    height: 40px;
  }
  .idle {
    width: 40px;
    height: 40px;
  }
  .need,
  .running,
  .pieces {
    padding-left: 52px;
  }
  .hand {
    margin-left: 52px;
  }
}
</style>
