<script setup lang="ts">
import { type EndLayer, type EndReading, type MeasuredEnd, placeAlong } from '@clear-mark/core';
import { computed, ref } from 'vue';
import type { Shot } from './keep-measured.ts';

/** A photograph with the card, the cable and the edges that were found. The edge of the length that is asked for is dragged, or moved by the arrows. */
const props = defineProps<{
  shot: Shot<EndReading>;
  end: MeasuredEnd | null;
  layer: EndLayer;
  dragged: number | null;
}>();
const emit = defineEmits<{ drag: [to: { x: number; y: number }] }>();
const svg = ref<SVGSVGElement | null>(null);
const isHeld = ref(false);
const points = (places: readonly { x: number; y: number }[]): string =>
  places.map((p) => `${p.x},${p.y}`).join(' ');
/** Where the edge lies that is asked for. */
const at = computed(() => {
  if (!props.end) return null;
  const mm = props.dragged ?? props.end[props.layer]?.mm ?? null;
  return mm === null ? null : placeAlong(props.end.path, mm);
});
function placeOf(event: PointerEvent): { x: number; y: number } {
  const box = svg.value!.getBoundingClientRect();
  return {
    x: ((event.clientX - box.left) / box.width) * props.shot.width,
    y: ((event.clientY - box.top) / box.height) * props.shot.height,
  };
}
function hold(event: PointerEvent): void {
  isHeld.value = true;
  (event.target as Element).setPointerCapture(event.pointerId);
}
function key(event: KeyboardEvent): void {
  const way = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
  if (way === 0 || !at.value) return;
  event.preventDefault();
  const step = props.shot.width / 800;
  emit('drag', { x: at.value.x + way * step, y: at.value.y });
}
</script>

<template>
  <div
    class="shot"
    :style="{
      aspectRatio: `${shot.width} / ${shot.height}`,
      width: `min(100%, ${(56 * shot.width) / shot.height}vh)`,
    }"
  >
    <img :src="shot.url" alt="The picture that was measured" draggable="false" />
    <svg
      v-if="end"
      ref="svg"
      preserveAspectRatio="none"
      :viewBox="`0 0 ${shot.width} ${shot.height}`"
      role="group"
      aria-label="What was found in the picture"
      @pointermove="isHeld && emit('drag', placeOf($event))"
      @pointerup="isHeld = false"
      @pointercancel="isHeld = false"
    >
      <polygon class="card" :points="points(end.outline)" />
      <polyline class="path" :points="points(end.path)" />
      <line
        v-for="s in end.seen"
        :key="s.of"
        :class="{ chosen: s.of === layer && dragged === null, tip: s.of === 'tip' }"
        :x1="s.line[0].x"
        :y1="s.line[0].y"
        :x2="s.line[1].x"
        :y2="s.line[1].y"
      />
      <circle
        v-if="at"
        class="handle"
        tabindex="0"
        role="slider"
        aria-label="The edge along the cable"
        :aria-valuenow="Math.round((dragged ?? end[layer]?.mm ?? 0) * 10) / 10"
        :cx="at.x"
        :cy="at.y"
        :r="shot.width / 60"
        data-test="edge-handle"
        @pointerdown.prevent="hold"
        @keydown="key"
      />
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
line,
polyline,
polygon {
  vector-effect: non-scaling-stroke;
  fill: none;
  stroke: #fff;
  stroke-width: 2px;
}
.card {
  opacity: 0.6;
  stroke-dasharray: 6 6;
}
.path {
  opacity: 0.6;
  stroke-dasharray: 1 5;
}
.tip,
.chosen {
  stroke: #ffd24a;
  stroke-width: 3px;
}
.handle {
  fill: rgb(255 210 74 / 25%);
  stroke: #ffd24a;
  stroke-width: 2px;
  vector-effect: non-scaling-stroke;
  cursor: grab;
}
</style>
