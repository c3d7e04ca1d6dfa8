<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core';
import { computed, ref } from 'vue';
import { ROUTES } from '../../api/client.ts';
import { useReply } from '../../api/queries.ts';
import { longDayText } from '../../shared/day-range.model.ts';
import { clockText, timeOfDay } from '../../shared/time-words.ts';
import { useSlowClock } from '../../shared/use-slow-clock.ts';
import { useOvenTone } from './now/use-oven-tone.ts';

/** A trainee's own part of the days to come, on the phone, with the clocks of the ovens that their pieces are in. */
const ASK_AGAIN_MS = 20_000;
const { found: days, again } = useReply(ROUTES.ownDays, () => ({}));
const slow = useSlowClock();
const now = ref(Date.now());
useIntervalFn(() => (now.value = Date.now()), 1000);
// A trainee's page has no stream: a load that went in or came out is seen soon all the same.
useIntervalFn(() => void again(), ASK_AGAIN_MS);
const isNow = (s: { from: string; to: string }): boolean =>
  Date.parse(s.from) <= slow.value && slow.value < Date.parse(s.to);
const isOver = (s: { to: string }): boolean => Date.parse(s.to) <= slow.value;
const loads = computed(() =>
  (days.value ?? [])
    .flatMap((d) => d.loads)
    .map((load) => ({ ...load, left: Math.round((Date.parse(load.endsAt) - now.value) / 1000) })),
);
useOvenTone(() => loads.value.filter((l) => l.left <= 0).map((l) => l.id));
</script>

<template>
  <p v-for="l in loads" :key="l.id" class="load" :class="{ due: l.left <= 0 }" data-test="own-load">
    <b class="time">{{ l.left > 0 ? clockText(l.left) : 'Take out' }}</b> {{ l.oven }}, {{ l.schedule }}
    <span v-if="l.left <= 0" class="soft">Hot: let it cool, and follow your instructor.</span>
  </p>
  <section v-for="d in days ?? []" :key="d.classId + d.day" class="section" data-test="own-day">
    <h2>{{ longDayText(d.day) }}<span v-if="d.bench" class="soft">, {{ d.bench }}</span></h2>
    <ol>
      <li v-for="s in d.steps" :key="s.from + s.name" :class="{ now: isNow(s), over: isOver(s) }">
        <b class="time">{{ timeOfDay(s.from) }}</b>
        <span
          >{{ s.name }}<template v-if="s.at">, {{ s.at }}</template>
          <span class="soft small">{{ s.title }}</span></span
        >
      </li>
    </ol>
  </section>
</template>

<style scoped>
ol {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: 64px 1fr;
  gap: 8px;
  min-height: 36px;
  align-items: center;
  border-top: 1px solid var(--hair);
}
.time {
  font-variant-numeric: tabular-nums;
}
.now {
  background: var(--accent-wash);
}
.over {
  color: var(--ink-soft);
}
.load {
  border: 1px solid var(--hair-strong);
  border-radius: var(--round);
  padding: 8px 12px;
}
.load .time {
  font-size: 1.5rem;
}
.due {
  border: 2px solid var(--fail);
  background: var(--fail-wash);
}
</style>
