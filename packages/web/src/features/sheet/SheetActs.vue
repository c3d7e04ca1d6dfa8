<script setup lang="ts">
import type { AttemptDocument } from '@clear-mark/contract';

/** What an instructor does with the whole piece: stop it while it is open; amend it and report of it once it is signed. */
defineProps<{ document: AttemptDocument; classId: string; canStop: boolean }>();
const emit = defineEmits<{ stop: [] }>();
</script>

<template>
  <template v-if="classId && document.revisions.length > 0">
    <RouterLink class="act" :to="{ name: 'amend', params: { classId, attemptId: document.attempt.id } }"
      >Amend</RouterLink
    >
    <RouterLink
      class="act"
      :to="{ name: 'reports', params: { classId }, query: { attempt: document.attempt.id } }"
      >Report</RouterLink
    >
  </template>
  <el-button v-else-if="canStop" class="stop" type="danger" plain title="Key !" @click="emit('stop')"
    >Stop</el-button
  >
</template>

<style scoped>
.stop {
  min-width: 84px;
  font-weight: 700;
}
</style>
