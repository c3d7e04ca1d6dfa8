<script setup lang="ts">
import type { FaceFault } from '@clear-mark/core';
import { KIND_WORDS } from '../face-words.ts';

/** Where somebody tapped on a picture, as white diamonds; with words for what, where they are to stand there. */
defineProps<{ marks: readonly { x: number; y: number; kind: FaceFault }[]; words?: boolean }>();
</script>

<template>
  <span
    v-for="(m, i) in marks"
    :key="i"
    class="dot"
    :style="{ left: `${100 * m.x}%`, top: `${100 * m.y}%` }"
    >{{ words ? KIND_WORDS[m.kind] : '' }}</span
  >
</template>

<style scoped>
.dot {
  position: absolute;
  transform: translate(-10px, -10px);
  padding: 10px 0 0 24px;
  line-height: 1;
  color: #fff;
  text-shadow: 0 0 3px #000;
  font-size: 0.875rem;
  white-space: nowrap;
}
.dot::before {
  content: '';
  position: absolute;
  left: 0;
  top: 0;
  width: 16px;
  height: 16px;
  border: 2px solid #fff;
  outline: 1px solid #000;
  transform: rotate(45deg);
}
</style>
