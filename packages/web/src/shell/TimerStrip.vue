<script setup lang="ts">
import { computed } from 'vue';
import { timers } from './timers.ts';
import { dueOf } from './timers.model.ts';

/** Every running timer of this device, the next one due first; a tap goes to its sheet. */
const rows = computed(() =>
  timers.list.value.map((timer) => ({ timer, due: dueOf(timer, timers.now.value) })),
);
const clock = (seconds: number): string =>
  `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, '0')}`;
</script>

<template>
  <div v-if="rows.length > 0" class="strip" role="region" aria-label="Running timers">
    <RouterLink
      v-for="{ timer, due } in rows"
      :key="`${timer.attemptId} ${timer.criterionId}`"
      class="timer"
      :class="{ due: due.due }"
      :to="
        timer.classId
          ? { name: 'sheet', params: { classId: timer.classId, attemptId: timer.attemptId } }
          : { name: 'own-sheet', params: { attemptId: timer.attemptId } }
      "
    >
      <span class="figure">{{ clock(due.elapsed) }}</span>
      <span class="what"
        ><b>{{ timer.trainee }}</b
        ><span class="small">{{ timer.label }}, {{ due.words }}</span></span
      >
    </RouterLink>
  </div>
</template>

<style scoped>
.strip {
  display: flex;
  gap: 8px;
  overflow-x: auto;
  padding: 4px 16px;
  border-bottom: 1px solid var(--hair);
  background: var(--sheet);
}
.timer {
  flex: none;
  display: inline-flex;
  align-items: center;
  gap: 12px;
  min-height: var(--tap);
  padding: 2px 14px;
  border: 1px solid var(--hair-strong);
  border-radius: var(--round);
  color: var(--ink);
  text-decoration: none;
}
.timer.due {
  background: var(--accent);
  border-color: var(--accent);
  color: var(--accent-ink);
}
.what {
  display: grid;
  line-height: 1.15;
}
</style>
