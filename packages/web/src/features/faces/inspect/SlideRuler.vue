<script setup lang="ts">
import type { Tool } from './face-tools.ts';
import { useSlideScale } from './use-slide-scale.ts';

/** Under a picture without a grade: its name and, where a slide gave the scale, the ruler. */
defineProps<{ name: string }>();
const tool = defineModel<Tool>('tool', { required: true });
const { scale } = useSlideScale();
const toggle = (): void => void (tool.value = tool.value === 'rule' ? 'look' : 'rule');
</script>

<template>
  <div v-if="scale" class="row tools">
    <el-button size="large" :aria-pressed="tool === 'rule'" @click="toggle">Ruler</el-button>
    <span class="small soft">{{ scale.umPerPx.toFixed(3) }} µm a pixel by the calibration slide.</span>
  </div>
  <figcaption class="small soft">
    <template v-if="tool === 'rule'">Tap two places to measure between them.</template>
    <template v-else>{{ name }}</template>
  </figcaption>
</template>

<style scoped>
.tools {
  margin-top: 8px;
}
</style>
