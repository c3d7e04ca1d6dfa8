<script setup lang="ts">
import type { FilterChip } from './filter-chips.model.ts';

/** What is narrowed, at a glance: each taken away by itself, or all at once. */
defineProps<{ chips: readonly FilterChip[] }>();
const emit = defineEmits<{ clear: [keys: readonly string[]]; all: [] }>();
</script>

<template>
  <ul v-if="chips.length > 0" class="row chips" aria-label="Narrowed to" data-test="chips">
    <li v-for="c in chips" :key="c.keys[0]">
      <el-button size="large" round :aria-label="`Remove: ${c.words}`" @click="emit('clear', c.keys)">
        {{ c.words }}<span class="away" aria-hidden="true">×</span>
      </el-button>
    </li>
    <li v-if="chips.length > 1">
      <el-button size="large" text @click="emit('all')">Show everything</el-button>
    </li>
  </ul>
</template>

<style scoped>
.chips {
  list-style: none;
  margin: 6px 0;
  padding: 0;
  gap: 8px;
}
.away {
  margin-left: 10px;
  font-size: 1.25rem;
  line-height: 1;
}
</style>
