<script setup lang="ts">
import type { Origin } from './origins.model.ts';

/** Where the entries behind a result came from, where that is not plain: handed in by another, or at another time. */
defineProps<{ origin: Origin }>();
</script>

<template>
  <p class="origin small" data-test="origin">
    <span v-for="(d, i) in origin.delivered" :key="i"
      >Handed in by <b>{{ d.by }}</b> for {{ d.author
      }}{{ d.confirmed ? ', who stands by it' : d.awaited ? ', who has not confirmed it' : '' }}.
    </span>
    <span v-for="(claimed, i) in origin.claimed" :key="`t${i}`"
      >The device said {{ claimed }}; that cannot be, so the time was held back.
    </span>
  </p>
</template>

<style scoped>
.origin {
  grid-column: 1 / -1;
  margin: 0 0 6px 42px;
  color: var(--ink-soft);
}
</style>
