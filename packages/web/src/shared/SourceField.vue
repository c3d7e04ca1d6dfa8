<script setup lang="ts">
import { type Source, SOURCE_KINDS } from '@clear-mark/core';
import { sourceKindWords } from '@clear-mark/words';
import ChoiceField from './ChoiceField.vue';

/** Where a figure comes from: its kind, and the words that are shown beside it. */
const props = defineProps<{ source: Source; of: string }>();
const emit = defineEmits<{ change: [source: Source] }>();
const options = SOURCE_KINDS.map((value) => ({
  value,
  label: sourceKindWords({ kind: value, fromMemory: false }),
}));
</script>

<template>
  <div class="source">
    <ChoiceField
      bare
      :label="`Kind of source: ${of}`"
      :model-value="source.kind"
      :options="options"
      @change="(kind) => emit('change', { ...props.source, kind })"
    />
    <el-input
      size="large"
      :model-value="source.words"
      :aria-label="`Source: ${of}`"
      placeholder="where it comes from"
      maxlength="300"
      @input="(words: string) => emit('change', { ...props.source, words })"
    />
    <el-checkbox
      v-if="source.kind === 'standard'"
      :model-value="source.fromMemory"
      @change="
        (on: string | number | boolean) => emit('change', { ...props.source, fromMemory: Boolean(on) })
      "
      >written from memory</el-checkbox
    >
  </div>
</template>

<style scoped>
.source {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 8px;
  width: 100%;
}
.source > :first-child {
  flex: 0 0 auto;
}
.source > .el-input {
  flex: 1 1 160px;
}
</style>
