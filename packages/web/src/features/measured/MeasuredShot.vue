<script setup lang="ts">
import type { CleavedEnd } from '@clear-mark/core';
import { ref } from 'vue';
import type { Line } from './cleave.model.ts';
import type { Shot } from './keep-measured.ts';

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
const svg = ref<SVGSVGElement | null>(null);
const held = ref<0 | 1 | null>(null);
const HANDLES = [0, 1] as const;
const faceOf = (e: CleavedEnd): Line => (e.side === props.side && props.dragged) || e.face;

function placeOf(event: PointerEvent): { x: number; y: number } {
  const box = svg.value!.getBoundingClientRect();
  return {
    x: ((event.clientX - box.left) / box.width) * props.shot.width,
    y: ((event.clientY - box.top) / box.height) * props.shot.height,
  };
}
function hold(event: PointerEvent, which: 0 | 1): void {
  held.value = which;
  (event.target as Element).setPointerCapture(event.pointerId);
}
function move(event: PointerEvent): void {
  if (held.value !== null) emit('drag', held.value, placeOf(event));
}
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
  <div
    class="shot"
    :style="{
      aspectRatio: `${shot.width} / ${shot.height}`,
      // As high as the dialog has room for, and never out of its proportions: what is drawn lies on it.
      width: `min(100%, ${(56 * shot.width) / shot.height}vh)`,
    }"
  >
    <img :src="shot.url" alt="The picture that was measured" draggable="false" />
    <svg
      ref="svg"
      preserveAspectRatio="none"
      :viewBox="`0 0 ${shot.width} ${shot.height}`"
      role="group"
      aria-label="What was found in the picture"
      @pointermove="move"
      @pointerup="held = null"
      @pointercancel="held = null"
    >
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
            @pointerdown.prevent="hold($event, which)"
            @keydown="key($event, which, faceOf(e)[which])"
          />
        </template>
      </g>
    </svg>
  </div>
</template>

<style scoped>
.shot {
  position: relative;
  margin: 0 auto;
  background: #000;
}
img,
svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  object-fit: fill;
}
svg {
  touch-action: none;
  /* Seen on light and on dark. */
  filter: drop-shadow(0 0 1px #000);
}
line {
  vector-effect: non-scaling-stroke;
  stroke: #fff;
  stroke-width: 1.5px;
}
.edge {
  stroke-dasharray: 5 4;
  opacity: 0.75;
}
.axis {
  opacity: 0.5;
  stroke-dasharray: 1 5;
}
.face {
  stroke-width: 2.5px;
}
.chosen .face {
  stroke: #ffd24a;
}
.handle {
  fill: rgb(255 210 74 / 25%);
  stroke: #ffd24a;
  stroke-width: 2px;
  vector-effect: non-scaling-stroke;
  cursor: grab;
}
</style>
