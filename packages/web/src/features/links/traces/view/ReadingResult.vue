<script setup lang="ts">
import type { TraceMark, TraceReading } from '@clear-mark/core';
import { TRACE_MARK_WORDS } from '@clear-mark/words';
import { usePreferences } from '../../../../shell/preferences.ts';
import { placeWords } from './trace-view.model.ts';

/** What became of each mark, and what was missed. */
defineProps<{ reading: TraceReading; marks: readonly TraceMark[] }>();
const preferences = usePreferences();
const place = (m: number): string => placeWords(m, preferences.distanceUnit);
const SAID = {
  right: 'right',
  other_kind: 'there is an event, of another kind',
  ghost: 'a ghost, taken for an event',
  nothing: 'nothing is there',
} as const;
</script>

<template>
  <div data-test="reading-result">
    <p>
      <b>{{ reading.found }} of {{ reading.events }} events found</b>, {{ reading.named }} of them called what
      they are; {{ reading.invented }} marked where nothing is; {{ reading.ghostsCalled }}
      {{ reading.ghostsCalled === 1 ? 'ghost' : 'ghosts' }} taken for events<template
        v-if="reading.endFound !== null"
        >; the end {{ reading.endFound ? 'found' : 'missed' }}</template
      >.
    </p>
    <ul>
      <li v-for="(m, i) in marks" :key="`${m.positionM}${m.kind}`" :class="reading.marks[i]">
        {{ place(m.positionM) }}, {{ TRACE_MARK_WORDS[m.kind].toLowerCase() }}:
        {{ SAID[reading.marks[i] ?? 'nothing'] }}
      </li>
      <li v-for="m in reading.missedM" :key="m" class="nothing">{{ place(m) }}: missed</li>
    </ul>
  </div>
</template>

<style scoped>
ul {
  margin: 0;
  padding-left: 20px;
}
li:not(.right) {
  font-weight: 700;
}
</style>
