<script setup lang="ts">
import { ref } from 'vue';
import { vFocus } from '../../shared/v-focus.ts';

defineProps<{ label: string; notes: readonly string[] }>();
const emit = defineEmits<{ close: []; note: [text: string] }>();
const text = ref('');
const save = (): void => {
  if (text.value.trim() !== '') emit('note', text.value.trim());
};
</script>

<template>
  <el-dialog :model-value="true" :title="`Note: ${label}`" width="520" append-to-body @close="emit('close')">
    <ul v-if="notes.length > 0">
      <li v-for="(note, i) in notes" :key="i">{{ note }}</li>
    </ul>
    <el-input
      v-model="text"
      v-focus
      type="textarea"
      :rows="4"
      maxlength="2000"
      aria-label="Note"
      @keydown.ctrl.enter="save"
    />
    <div class="row foot">
      <el-button size="large" type="primary" :disabled="text.trim() === ''" @click="save"
        >Save note</el-button
      >
      <el-button size="large" @click="emit('close')">Cancel</el-button>
    </div>
  </el-dialog>
</template>

<style scoped>
.foot {
  margin-top: 14px;
}
</style>
