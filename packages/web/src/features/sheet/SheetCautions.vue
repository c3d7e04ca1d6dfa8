<script setup lang="ts">
import type { MethodSheet } from '@clear-mark/core';

/** What can hurt somebody, before the first step; open until something was entered. */
defineProps<{ cautions: MethodSheet['cautions']; open: boolean }>();
</script>

<template>
  <details class="cautions" :open="open">
    <summary>Cautions before the first step</summary>
    <ul>
      <li v-for="(caution, i) in cautions" :key="i"><b v-if="caution.stop">Stop. </b>{{ caution.text }}</li>
    </ul>
  </details>
</template>

<style scoped>
.cautions {
  padding: 0 20px;
  border-bottom: 1px solid var(--hair);
}
ul {
  margin: 0 0 12px;
  padding-left: 20px;
}
</style>
