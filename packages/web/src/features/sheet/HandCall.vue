<script setup lang="ts">
import type { Entry } from '@clear-mark/core';
import { computed } from 'vue';
import { agoWords } from '../../shared/time-words.ts';
import { useSlowClock } from '../../shared/use-slow-clock.ts';

/** The raised hand of this bench: a trainee calls, an instructor answers. */
const props = defineProps<{ hand: Entry | null; teaches: boolean }>();
const emit = defineEmits<{ raise: []; lower: [] }>();
const now = useSlowClock();
const since = computed(() => {
  const words = agoWords(props.hand ? Date.parse(props.hand.at) : now.value, now.value);
  return words === 'just now' ? words : `${words} ago`;
});
</script>

<template>
  <div v-if="hand" class="called" role="status">
    <span><b>{{ teaches ? 'Calls you' : 'Instructor called' }}</b>, {{ since }}</span>
    <button class="act next" type="button" @click="emit('lower')">
      {{ teaches ? 'I am here' : 'Take it back' }}
    </button>
  </div>
  <button v-else-if="!teaches" class="act next" type="button" @click="emit('raise')">
    Call the instructor
  </button>
</template>

<style scoped>
.called {
  display: flex;
  align-items: center;
  gap: 14px;
  padding: 4px 10px;
  border-left: 4px solid var(--accent);
  background: var(--accent-wash);
}
</style>
