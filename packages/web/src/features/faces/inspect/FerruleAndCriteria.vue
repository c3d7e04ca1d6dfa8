<script setup lang="ts">
import type { FaceCriteria } from '@clear-mark/core';
import ChoiceField from '../../../shared/ChoiceField.vue';
import type { FaceView as Shows } from '../engine/face-orders.ts';

/** What a picture shows, and by which table it is graded: at the end of the row of tools. */
defineProps<{ tables: readonly FaceCriteria[]; disabled?: boolean }>();
const shows = defineModel<Shows>('shows', { required: true });
const tableId = defineModel<string>('tableId', { required: true });
</script>

<template>
  <span class="fill" />
  <ChoiceField
    v-model="shows"
    bare
    label="Ferrule"
    :disabled="disabled"
    :options="[
      { value: 'single', label: 'One fiber' },
      { value: 'row', label: 'Row of fibers' },
    ]"
  />
  <ChoiceField
    v-model="tableId"
    bare
    label="Criteria"
    :disabled="disabled"
    :options="tables.map((c) => ({ value: c.id, label: c.title }))"
  />
</template>

<style scoped>
.fill {
  flex: 1;
}
.choice {
  max-width: 260px;
}
</style>
