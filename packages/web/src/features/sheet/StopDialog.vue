<script setup lang="ts">
import { type Hazard, HAZARDS } from '@clear-mark/core';
import { HAZARD_WORDS } from '@clear-mark/words';
import { ref } from 'vue';

/** Ends the piece for somebody's safety: what for, and a note. */
defineProps<{ trainee: string; at: string }>();
const emit = defineEmits<{ close: []; stop: [hazard: Hazard, note: string | null] }>();
const hazard = ref<Hazard | null>(null);
const note = ref('');

function stop(): void {
  if (hazard.value) emit('stop', hazard.value, note.value.trim() === '' ? null : note.value.trim());
}
</script>

<template>
  <el-dialog
    :model-value="true"
    :title="`Stop ${trainee}’s piece`"
    width="560"
    append-to-body
    @close="emit('close')"
  >
    <p>Make the bench safe first. The piece ends here, at “{{ at }}”, and fails for safety.</p>
    <el-radio-group v-model="hazard" class="hazards" aria-label="What for">
      <el-radio-button v-for="h in HAZARDS" :key="h" :value="h" :label="HAZARD_WORDS[h]" />
    </el-radio-group>
    <el-input
      v-model="note"
      type="textarea"
      :rows="2"
      maxlength="2000"
      placeholder="What happened (may stay empty)"
      aria-label="What happened"
    />
    <template #footer>
      <el-button @click="emit('close')">Go on with the piece</el-button>
      <el-button type="danger" :disabled="hazard === null" @click="stop">Stop the piece</el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
.hazards {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(230px, 1fr));
  gap: 8px;
  margin: 12px 0;
}
.hazards :deep(.el-radio-button__inner) {
  width: 100%;
  min-height: 44px;
  border: 1px solid var(--hair);
  border-radius: 6px;
  display: flex;
  align-items: center;
  white-space: normal;
  text-align: left;
  line-height: 1.3;
}
</style>
