<script setup lang="ts">
import type { Markers } from '@clear-mark/core';
import { computed } from 'vue';
import { type Axis, type MarkerPart, movedMarker, placeWords } from './trace-view.model.ts';

/** Markers A and B with the windows of their lines; dragged, or moved by the arrows once they have the focus. */
const props = defineProps<{
  markers: Markers;
  axis: Axis;
  top: number;
  bottom: number;
  unit: 'm' | 'ft';
}>();
const emit = defineEmits<{ move: [markers: Markers] }>();

const placeOf = ({ aM, bM, before, after }: Markers): Readonly<Record<MarkerPart, number>> => ({
  a: aM,
  b: bM,
  'before-from': before.fromM,
  'before-to': before.toM,
  'after-from': after.fromM,
  'after-to': after.toM,
});
const NAMES: readonly (readonly [MarkerPart, string])[] = [
  ['before-from', 'Line before, its beginning'],
  ['before-to', 'Line before, its end'],
  ['a', 'Marker A'],
  ['b', 'Marker B'],
  ['after-from', 'Line after, its beginning'],
  ['after-to', 'Line after, its end'],
];
const places = computed(() => placeOf(props.markers));
const windows = computed(() => [props.markers.before, props.markers.after]);
const isWindow = (part: MarkerPart): boolean => part.includes('-');

let held: MarkerPart | null = null;
function hold(part: MarkerPart, event: PointerEvent): void {
  held = part;
  (event.currentTarget as Element).setPointerCapture(event.pointerId);
}
function drag(event: PointerEvent): void {
  if (held === null) return;
  const svg = (event.currentTarget as SVGElement).ownerSVGElement!;
  const px = event.clientX - svg.getBoundingClientRect().left;
  emit('move', movedMarker(props.markers, held, props.axis.toM(px)));
}
const STEP_PX = 1;
const FAR_PX = 20;
function press(part: MarkerPart, event: KeyboardEvent): void {
  const way = event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 1 : 0;
  if (way === 0) return;
  event.preventDefault();
  event.stopPropagation();
  const px = props.axis.toPx(places.value[part]) + way * (event.shiftKey ? FAR_PX : STEP_PX);
  emit('move', movedMarker(props.markers, part, props.axis.toM(px)));
}
</script>

<template>
  <g class="markers" @mousedown.stop @touchstart.stop @dblclick.stop @click.stop>
    <rect
      v-for="(w, i) in windows"
      :key="i"
      class="window"
      :x="Math.min(axis.toPx(w.fromM), axis.toPx(w.toM))"
      :width="Math.max(1, Math.abs(axis.toPx(w.toM) - axis.toPx(w.fromM)))"
      :y="top"
      :height="bottom - top"
    />
    <g
      v-for="[part, name] in NAMES"
      :key="part"
      role="slider"
      tabindex="0"
      :aria-label="name"
      :aria-valuenow="Math.round(places[part] * 10) / 10"
      :aria-valuetext="placeWords(places[part], unit)"
      :class="{ thin: isWindow(part) }"
      @pointerdown="hold(part, $event)"
      @pointermove="drag"
      @pointerup="held = null"
      @pointercancel="held = null"
      @keydown="press(part, $event)"
    >
      <line :x1="axis.toPx(places[part])" :x2="axis.toPx(places[part])" :y1="top" :y2="bottom" />
      <rect
        class="hit"
        :x="axis.toPx(places[part]) - (isWindow(part) ? 9 : 16)"
        :y="isWindow(part) ? bottom - 40 : top"
        :width="isWindow(part) ? 18 : 32"
        :height="isWindow(part) ? 40 : bottom - top - 44"
      />
      <template v-if="!isWindow(part)">
        <rect class="tag" :x="axis.toPx(places[part]) - 12" :y="top + 2" width="24" height="24" rx="12" />
        <text :x="axis.toPx(places[part])" :y="top + 19" text-anchor="middle">{{ part.toUpperCase() }}</text>
      </template>
      <path v-else class="grip" :d="`M${axis.toPx(places[part])} ${bottom - 26}v18`" />
    </g>
  </g>
</template>

<style scoped>
.window {
  fill: var(--band);
  opacity: 0.35;
  pointer-events: none;
}
[role='slider'] {
  cursor: ew-resize;
  touch-action: none;
}
[role='slider']:focus-visible {
  outline: none;
}
line {
  stroke: var(--accent);
  stroke-width: 2;
}
[role='slider']:focus-visible line {
  stroke-width: 4;
}
.thin line {
  stroke-width: 1;
  stroke-dasharray: 4 4;
}
.hit {
  fill: transparent;
}
.tag {
  fill: var(--accent);
}
text {
  font-size: 15px;
  font-weight: 700;
  fill: var(--accent-ink);
}
.grip {
  stroke: var(--accent);
  stroke-width: 7;
  stroke-linecap: round;
}
</style>
