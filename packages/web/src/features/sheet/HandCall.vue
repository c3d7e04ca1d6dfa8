<script setup lang="ts">
import type { Entry } from '@clear-mark/core';
import { computed, onUnmounted, ref } from 'vue';

/** The raised hand of this bench: a trainee calls, an instructor answers. */
const props = defineProps<{ hand: Entry | null; teaches: boolean }>();
const emit = defineEmits<{ raise: []; lower: [] }>();
const now = ref(Date.now());
const clock = setInterval(() => (now.value = Date.now()), 10_000);
onUnmounted(() => clearInterval(clock));
const since = computed(() => {
  const minutes = props.hand ? Math.floor((now.value - Date.parse(props.hand.at)) / 60_000) : 0;
  return minutes < 1 ? 'just now' : `${minutes} min ago`;
});
</script>

<template>
  <div v-if="hand" class="called" role="status">
    <span
      ><b>{{ teaches ? 'Calls you' : 'Instructor called' }}</b
      >, {{ since }}</span
    >
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
