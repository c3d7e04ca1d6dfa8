<script setup lang="ts">
import type { CleavedEnd } from '@clear-mark/core';
import { ref } from 'vue';
import type { Line } from './cleave.model.ts';
import type { Shot } from './keep-measured.ts';
import ShotFrame from './ShotFrame.vue';

/** A picture with the edges that were found in it. The ends of the chosen face line are dragged, or moved by the arrows. */
const props = defineProps<{
  shot: Shot;
  ends: readonly CleavedEnd[];
  side: 'left' | 'right';
  dragged: Line | null;
}>();
const emit = defineEmits<{
  drag: [which: 0 | 1, to: { x: number; y: number }];
  choose: [side: 'left' | 'right'];
}>();
const held = ref<0 | 1>(0);
const HANDLES = [0, 1] as const;
const faceOf = (e: CleavedEnd): Line => (e.side === props.side && props.dragged) || e.face;
const STEPS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
function key(event: KeyboardEvent, which: 0 | 1, at: { x: number; y: number }): void {
  const step = STEPS[event.key];
  if (!step) return;
  event.preventDefault();
  emit('drag', which, { x: at.x + step[0], y: at.y + step[1] });
}
</script>

<template>
  <ShotFrame v-slot="{ hold }" :shot="shot" @drag="emit('drag', held, $event)">
    <g v-for="e in ends" :key="e.side" :class="{ chosen: e.side === side }" @click="emit('choose', e.side)">
      <line
        v-for="(edge, i) in e.edges"
        :key="i"
        class="edge"
        :x1="edge[0].x"
        :y1="edge[0].y"
        :x2="edge[1].x"
        :y2="edge[1].y"
      />
      <line class="axis" :x1="e.axis[0].x" :y1="e.axis[0].y" :x2="e.axis[1].x" :y2="e.axis[1].y" />
      <line
        class="face"
        :x1="faceOf(e)[0].x"
        :y1="faceOf(e)[0].y"
        :x2="faceOf(e)[1].x"
        :y2="faceOf(e)[1].y"
      />
      <template v-if="e.side === side">
        <circle
          v-for="which in HANDLES"
          :key="which"
          class="handle"
          tabindex="0"
          role="button"
          :aria-label="which === 0 ? 'Lower end of the face line' : 'Upper end of the face line'"
          :cx="faceOf(e)[which].x"
          :cy="faceOf(e)[which].y"
          :r="shot.width / 70"
          :data-test="`handle-${which}`"
          @pointerdown="
            held = which;
            hold($event);
          "
          @keydown="key($event, which, faceOf(e)[which])"
        />
      </template>
    </g>
  </ShotFrame>
</template>

<style scoped>
.edge {
  stroke-dasharray: 5 4;
  opacity: 0.75;
}
.axis {
  opacity: 0.5;
  stroke-dasharray: 1 5;
}
.face {
  --stroke-width: 2.5px;
}
.chosen .face {
  --stroke: #ffd24a;
}
</style>
