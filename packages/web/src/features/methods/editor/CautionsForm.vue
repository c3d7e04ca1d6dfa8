<script setup lang="ts">
import type { Caution } from '@clear-mark/core';
import { spliced } from './draft-edit.model.ts';

/** Cautions in their order; one that stops is shown before all else. */
const props = defineProps<{ cautions: readonly Caution[] }>();
const emit = defineEmits<{ change: [cautions: readonly Caution[]] }>();
const set = (at: number, caution: Caution): void => emit('change', spliced(props.cautions, at, 1, caution));
</script>

<template>
  <fieldset class="cautions">
    <legend>Cautions</legend>
    <div v-for="(caution, i) in cautions" :key="i" class="caution">
      <el-input
        type="textarea"
        autosize
        size="large"
        :model-value="caution.text"
        :aria-label="`Caution ${i + 1}`"
        maxlength="1000"
        @input="(text: string) => set(i, { ...caution, text })"
      />
      <el-checkbox
        :model-value="caution.stop"
        :aria-label="`Caution ${i + 1} begins with Stop`"
        @change="(on: string | number | boolean) => set(i, { ...caution, stop: Boolean(on) })"
        >Stop</el-checkbox
      >
      <el-button
        size="large"
        text
        :aria-label="`Remove caution ${i + 1}`"
        @click="emit('change', spliced(cautions, i, 1))"
        >Remove</el-button
      >
    </div>
    <el-button size="large" @click="emit('change', [...cautions, { text: '', stop: false }])">
      Add a caution
    </el-button>
  </fieldset>
</template>

<style scoped>
.cautions {
  margin: 0 0 16px;
  padding: 8px 0 0;
  border: 0;
  border-top: 1px solid var(--hair);
}
legend {
  padding: 0 8px 0 0;
  color: var(--ink-soft);
}
.caution {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto auto;
  align-items: center;
  gap: 8px;
  padding: 4px 0;
}
.cautions > .el-button {
  margin-top: 6px;
}
</style>
