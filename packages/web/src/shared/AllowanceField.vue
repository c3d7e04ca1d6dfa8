<script setup lang="ts">
import type { SourcedDb } from '@clear-mark/core';
import { sourceOfChanged } from './own-source.ts';
import NumberField from './NumberField.vue';
import SourceField from './SourceField.vue';

/** What may be lost, in dB or dB/km, with where the figure comes from. */
const props = withDefaults(defineProps<{ value: SourcedDb; label: string; unit?: string }>(), { unit: 'dB' });
const emit = defineEmits<{ change: [value: SourcedDb] }>();
function changed(db: number): void {
  if (db === props.value.db) return;
  emit('change', { db, source: sourceOfChanged(props.value.source) });
}
</script>

<template>
  <div class="allowance">
    <NumberField :label="`${label}, ${unit}`" :max="20" :model-value="value.db" @change="changed" />
    <SourceField
      :source="value.source"
      :of="label"
      @change="(source) => emit('change', { ...props.value, source })"
    />
  </div>
</template>

<style scoped>
.allowance {
  display: flex;
  flex-wrap: wrap;
  align-items: flex-end;
  gap: 4px 8px;
  margin-bottom: 14px;
}
.allowance > :first-child {
  flex: 0 0 104px;
  min-width: 0;
  margin-bottom: 0;
}
/* The words go on over the source, so that the fields of one form stand below each other. */
.allowance > :first-child :deep(label) {
  white-space: nowrap;
}
.allowance > .source {
  flex: 1 1 340px;
  width: auto;
}
</style>
