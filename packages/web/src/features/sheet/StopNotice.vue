<script setup lang="ts">
import type { Stop } from '@clear-mark/core';
import { HAZARD_WORDS, skillWords } from '@clear-mark/words';

/** Stops that stand on this piece, each with the way back. */
defineProps<{ stops: readonly Stop[]; canTakeBack: boolean }>();
const emit = defineEmits<{ takeBack: [entryId: string] }>();
</script>

<template>
  <div v-for="s in stops" :key="s.entryId" class="stopped" role="alert">
    <span>
      <b>Stopped.</b> {{ HAZARD_WORDS[s.hazard] }}<template v-if="s.note">: {{ s.note }}</template>.
      {{ skillWords(s.skill) }} fails, and with it the piece.
    </span>
    <el-button v-if="canTakeBack" @click="emit('takeBack', s.entryId)">Take the stop back</el-button>
  </div>
</template>

<style scoped>
.stopped {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  justify-content: space-between;
  gap: 8px 14px;
  padding: 8px 12px;
  border-left: 6px solid var(--fail);
  background: var(--fail-wash);
}
</style>
