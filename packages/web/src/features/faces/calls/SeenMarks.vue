<script setup lang="ts">
import type { SeenFace } from '@clear-mark/contract';
import { computed } from 'vue';
import { pathOf, scaleOf } from '../inspect/face-marks.model.ts';

/** What is on a face, over its picture: shown when every call is made. */
const props = defineProps<{ seen: SeenFace }>();
const stroke = computed(() => props.seen.width / 130);
const paths = computed(() => {
  const scale = scaleOf(props.seen, stroke.value);
  return props.seen.features.map((f) => pathOf(f, scale));
});
</script>

<template>
  <svg :viewBox="`0 0 ${seen.width} ${seen.height}`" aria-hidden="true" data-test="seen">
    <circle
      :cx="seen.centrePx[0]"
      :cy="seen.centrePx[1]"
      :r="seen.claddingDiameterPx / 2"
      fill="none"
      stroke="#ffd84d"
      stroke-opacity="0.5"
      :stroke-width="stroke / 2"
    />
    <path v-for="(d, i) in paths" :key="i" :d="d" fill="none" stroke="#ffd84d" :stroke-width="stroke" />
  </svg>
</template>

<style scoped>
svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}
</style>
