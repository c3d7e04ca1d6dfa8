<script setup lang="ts">
import type { Criterion, Entry, EntryValue } from '@clear-mark/core';
import { faultWords } from '@clear-mark/words';
import { computed } from 'vue';

/** What the chosen row is said to be: a check passed, failed with its faults, or nothing that was seen. */
const props = defineProps<{ criterion: Criterion; entry: Entry | null }>();
const emit = defineEmits<{ enter: [value: EntryValue | null] }>();
const value = computed(() => (props.entry?.value?.kind === 'check' ? props.entry.value : null));
const faults = computed(() => value.value?.faults ?? []);
const named = computed(() => (props.criterion.kind === 'check' ? (props.criterion.faults ?? []) : []));
function toggle(fault: string): void {
  const now = faults.value.includes(fault)
    ? faults.value.filter((f) => f !== fault)
    : [...faults.value, fault];
  emit('enter', { kind: 'check', passed: false, faults: now });
}
</script>

<template>
  <section data-test="chosen">
    <h2>{{ criterion.label }}</h2>
    <div class="row acts">
      <template v-if="criterion.kind === 'check'">
        <el-button
          size="large"
          :aria-pressed="value?.passed === true"
          @click="emit('enter', { kind: 'check', passed: true })"
          >Pass</el-button
        >
        <el-button
          size="large"
          :aria-pressed="value?.passed === false"
          @click="emit('enter', { kind: 'check', passed: false })"
          >Fail</el-button
        >
      </template>
      <el-button size="large" :aria-pressed="entry?.kind === 'not_seen'" @click="emit('enter', null)"
        >Not seen</el-button
      >
    </div>
    <div v-if="value?.passed === false && named.length > 0" class="row acts" role="group" aria-label="Faults">
      <el-button
        v-for="f in named"
        :key="f"
        size="large"
        :aria-pressed="faults.includes(f)"
        @click="toggle(f)"
        >{{ faultWords(f) }}</el-button
      >
    </div>
  </section>
</template>

<style scoped>
.acts {
  flex-wrap: wrap;
  margin-top: 6px;
}
</style>
