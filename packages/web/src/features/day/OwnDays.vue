<script setup lang="ts">
import { ROUTES } from '../../api/client.ts';
import { useReply } from '../../api/queries.ts';
import { longDayText } from '../../shared/day-range.model.ts';
import { timeOfDay } from '../../shared/time-words.ts';
import { useSlowClock } from '../../shared/use-slow-clock.ts';

/** A trainee's own part of the days to come, on the phone. */
const { found: days } = useReply(ROUTES.ownDays, () => ({}));
const now = useSlowClock();
const isNow = (s: { from: string; to: string }): boolean =>
  Date.parse(s.from) <= now.value && now.value < Date.parse(s.to);
const isOver = (s: { to: string }): boolean => Date.parse(s.to) <= now.value;
</script>

<template>
  <section v-for="d in days ?? []" :key="d.classId + d.day" class="section" data-test="own-day">
    <h2>{{ longDayText(d.day) }}</h2>
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
</style>
