<script setup lang="ts">
import type { GradedFace } from '@clear-mark/core';
import { CORE_WORDS } from '../face-words.ts';
import { computed } from 'vue';
import type { Tool } from './face-tools.ts';
import { differenceFrom, useSlideScale } from './use-slide-scale.ts';

/** What can be done with the picture, and a line that says how. */
const props = defineProps<{ name: string; face: GradedFace; zoomed: boolean }>();
const emit = defineEmits<{ closer: []; further: []; whole: [] }>();
const tool = defineModel<Tool>('tool', { required: true });
const flattened = defineModel<boolean>('flattened', { required: true });
const loupe = defineModel<boolean>('loupe', { required: true });
const width = defineModel<number>('width', { required: true });
const { scale } = useSlideScale();
const off = computed(() => differenceFrom(scale.value, props.face.umPerPx));
const toggle = (which: Tool): void => void (tool.value = tool.value === which ? 'look' : which);
</script>

<template>
  <div class="row tools">
    <el-button size="large" :aria-pressed="flattened" @click="flattened = !flattened"> Flattened </el-button>
    <el-button size="large" :aria-pressed="loupe" @click="loupe = !loupe">Loupe</el-button>
    <el-button size="large" :aria-pressed="tool === 'rule'" @click="toggle('rule')">Ruler</el-button>
    <el-button-group>
      <el-button size="large" aria-label="Zoom in" @click="emit('closer')">+</el-button>
      <el-button size="large" aria-label="Zoom out" :disabled="!zoomed" @click="emit('further')">−</el-button>
      <el-button v-if="zoomed" size="large" @click="emit('whole')">Whole</el-button>
    </el-button-group>
    <span class="fill" />
    <el-button size="large" :aria-pressed="tool === 'defect'" @click="toggle('defect')">
      Add a defect
    </el-button>
    <el-button size="large" :aria-pressed="tool === 'scratch'" @click="toggle('scratch')">
      Add a scratch
    </el-button>
  </div>
  <p v-if="off !== null" class="notice" data-test="slide-differs">
    The calibration slide gives a scale {{ Math.abs(100 * off).toFixed(1) }} %
    {{ off > 0 ? 'larger' : 'smaller' }} than this cladding: another zoom or focus, or a fiber that is not 125
    µm. The cladding counts.
  </p>
  <figcaption class="small soft">
    <template v-if="tool === 'rule'">Tap two places to measure between them.</template>
    <template v-else-if="tool === 'defect'">Tap both ends of its diameter.</template>
    <label v-else-if="tool === 'scratch'" class="row">
      Tap both ends of it; width
      <el-input-number v-model="width" size="large" class="width" :min="0.2" :max="30" :step="0.2" /> µm
    </label>
    <template v-else>
      {{ name }}. {{ face.umPerPx.toFixed(3) }} µm a pixel from the cladding,
      {{ CORE_WORDS[face.core.class] }}. Corners: a defect; rails: a scratch; heavy: it decides. Two fingers
      or Ctrl and the wheel zoom.
    </template>
  </figcaption>
</template>

<style scoped>
.tools {
  margin-top: 8px;
}
.fill {
  flex: 1;
}
.width {
  width: 84px;
}
</style>
