<script setup lang="ts">
import { computed } from 'vue';
import { useClassroom } from '../../classroom/use-classroom.ts';

/** Keeps the picture with what was made of it, with an attempt at work or by itself. */
const props = defineProps<{
  kept: boolean;
  changed: boolean;
  busy: boolean;
  attemptId: string;
  keptWith: string | null;
}>();
const emit = defineEmits<{ keep: []; attempt: [id: string] }>();
const classroom = useClassroom();
const attempts = computed(() =>
  [...classroom.attempts.values()]
    .map((attempt) => ({ id: attempt.id, words: `${attempt.traineeName}, ${attempt.pieceLabel}` }))
    .sort((a, b) => a.words.localeCompare(b.words)),
);
const label = computed(() => {
  if (!props.kept) return 'Keep';
  return props.changed ? 'Keep the change' : 'Kept';
});
</script>

<template>
  <div class="row keep">
    <select
      class="act"
      aria-label="Keep with"
      :value="attemptId"
      :disabled="kept"
      @change="emit('attempt', ($event.target as HTMLSelectElement).value)"
    >
      <option value="">by itself</option>
      <option v-if="keptWith !== null && !attempts.some((a) => a.id === attemptId)" :value="attemptId">
        with {{ keptWith }}
      </option>
      <option v-for="a in attempts" :key="a.id" :value="a.id">with {{ a.words }}</option>
    </select>
    <button
      class="act next"
      type="button"
      :disabled="busy || (kept && !changed)"
      data-test="keep"
      @click="emit('keep')"
    >
      {{ label }}
    </button>
  </div>
</template>

<style scoped>
.keep {
  margin-top: 12px;
  flex-wrap: nowrap;
}
.keep select {
  min-width: 0;
  flex: 1;
}
</style>
