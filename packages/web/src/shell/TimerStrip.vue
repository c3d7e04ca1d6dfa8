<script setup lang="ts">
import { computed } from 'vue';
import { useRouter } from 'vue-router';
import { clockText } from '../shared/time-words.ts';
import { dueOf, type RunningTimer } from '../classroom/timers.model.ts';
import { timers } from './timers.ts';

/**
 * Every running timer of this device, the next one due first; a tap goes to its sheet. Plain links in one component,
 * since each second redraws every clock.
 */
const router = useRouter();
const placeOf = (timer: RunningTimer) =>
  timer.classId
    ? { name: 'sheet', params: { classId: timer.classId, attemptId: timer.attemptId } }
    : { name: 'own-sheet', params: { attemptId: timer.attemptId } };
const rows = computed(() =>
  timers.list.value.map((timer) => ({
    timer,
    key: `${timer.attemptId} ${timer.criterionId}`,
    href: router.resolve(placeOf(timer)).href,
  })),
);
</script>

<template>
  <div v-if="rows.length > 0" class="strip" role="region" aria-label="Running timers">
    <a
      v-for="{ timer, key, href } in rows"
      :key="key"
      class="timer"
      :class="{ due: dueOf(timer, timers.now.value).due }"
      :href="href"
      @click.prevent="router.push(placeOf(timer))"
    >
      <span class="figure">{{ clockText(dueOf(timer, timers.now.value).elapsed) }}</span>
      <span class="what"
        ><b>{{ timer.trainee }}</b
        ><span class="small">{{ timer.label }}, {{ dueOf(timer, timers.now.value).words }}</span></span
      >
    </a>
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
