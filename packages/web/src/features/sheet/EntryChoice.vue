<script setup lang="ts">
import type { Criterion, Entry } from '@clear-mark/core';
import { timeOfDay } from '../../shared/time-words.ts';
import { entryWords, partWords } from './entry-words.ts';

/** Results that do not know of each other, or a trainee's that nobody witnessed: who said what, and a tap to keep one. */
const props = defineProps<{
  criterion: Criterion;
  entries: readonly Entry[];
  nameOf: (personId: string) => string;
  /** `keep` chooses between results, `seen` witnesses the trainee's own. */
  act: 'keep' | 'seen';
  locked: boolean;
}>();
const emit = defineEmits<{ keep: [entry: Entry] }>();
const words = (e: Entry): string =>
  (e.part === '' ? '' : `${partWords(e.part)}: `) + entryWords(e, props.criterion);
</script>

<template>
  <ul class="choice" :data-test="act">
    <li v-for="e in entries" :key="e.id">
      <span
        ><b>{{ words(e) }}</b> <span class="soft">{{ nameOf(e.authorId) }}, {{ timeOfDay(e.at) }}</span></span
      >
      <button v-if="!locked" class="act" type="button" @click="emit('keep', e)">
        {{ act === 'keep' ? 'Keep this' : 'I saw it' }}
      </button>
    </li>
  </ul>
</template>

<style scoped>
.choice {
  grid-column: 1 / -1;
  list-style: none;
  margin: 0 0 6px 42px;
  padding: 4px 10px;
  border-left: 4px solid var(--ink);
  background: var(--sunk);
}
li {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 12px;
  padding: 3px 0;
}
</style>
