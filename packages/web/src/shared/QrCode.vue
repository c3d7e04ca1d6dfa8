<script setup lang="ts">
import { encode } from 'uqr';
import { computed } from 'vue';

/** A text as a QR code (ISO/IEC 18004), dark on light in the day and at night, so that every camera reads it. */
const props = defineProps<{ text: string; label: string }>();
const code = computed(() => encode(props.text, { border: 4 }));
/** One path for all dark fields, a field one unit wide. */
const dark = computed(() =>
  code.value.data
    .flatMap((line, y) => line.flatMap((isDark, x) => (isDark ? [`M${x} ${y}h1v1h-1z`] : [])))
    .join(''),
);
</script>

<template>
  <svg class="qr" :viewBox="`0 0 ${code.size} ${code.size}`" role="img" :aria-label="label">
    <rect :width="code.size" :height="code.size" fill="#fff" />
    <path :d="dark" fill="#000" shape-rendering="crispEdges" />
  </svg>
</template>

<style scoped>
.qr {
  width: 180px;
  height: 180px;
  flex: none;
  border-radius: var(--round);
}
</style>
