<script setup lang="ts">
import type { Stop } from '@clear-mark/core';
import { HAZARD_WORDS, SKILL_WORDS } from '@clear-mark/words';

/** Stops that stand on this piece, and the way to stop it: always there, whatever else is shown. */
defineProps<{ stops: readonly Stop[]; canStop: boolean }>();
const emit = defineEmits<{ stop: []; takeBack: [entryId: string] }>();
</script>

<template>
  <div v-for="s in stops" :key="s.entryId" class="stopped" role="alert">
    <span>
      <b>Stopped.</b> {{ HAZARD_WORDS[s.hazard] }}<template v-if="s.note">: {{ s.note }}</template
      >. {{ SKILL_WORDS[s.skill] }} fails, and with it the piece.
    </span>
    <el-button v-if="canStop" @click="emit('takeBack', s.entryId)">Take the stop back</el-button>
  </div>
  <el-button
    v-if="canStop && stops.length === 0"
    class="stop"
    type="danger"
    plain
    title="Key !"
    @click="emit('stop')"
    >Stop</el-button
  >
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
.stop {
  position: absolute;
  right: 20px;
  bottom: 8px;
  min-width: 84px;
  min-height: 40px;
  font-weight: 700;
}
</style>
