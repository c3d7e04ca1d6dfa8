<script setup lang="ts">
import { type EndLayer, type EndReading, type MeasuredEnd, placeAlong } from '@clear-mark/core';
import { computed } from 'vue';
import { isTipSeen } from './end.model.ts';
import type { Shot } from './keep-measured.ts';
import ShotFrame from './ShotFrame.vue';

/** A photograph with the card, the cable and the edges that were found. The edge of the length that is asked for is dragged, or moved by the arrows. */
const props = defineProps<{
  shot: Shot<EndReading>;
  end: MeasuredEnd | null;
  layer: EndLayer;
  dragged: number | null;
}>();
const emit = defineEmits<{ drag: [to: { x: number; y: number }] }>();
const points = (places: readonly { x: number; y: number }[]): string =>
  places.map((p) => `${p.x},${p.y}`).join(' ');
/** How far from the tip the handle stands: at the edge that is asked for, or half-way along the cable where that is not certain. */
const handleMm = computed((): number | null => {
  if (!props.end) return null;
  const half = isTipSeen(props.end) ? (props.end.path.at(-1)?.mm ?? 0) / 2 : null;
  return props.dragged ?? props.end[props.layer]?.mm ?? half;
});
const at = computed(() =>
  props.end && handleMm.value !== null ? placeAlong(props.end.path, handleMm.value) : null,
);
function key(event: KeyboardEvent): void {
  const way = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
  if (way === 0 || !at.value) return;
  event.preventDefault();
  const step = props.shot.width / 800;
  emit('drag', { x: at.value.x + way * step, y: at.value.y });
}
</script>

<template>
  <ShotFrame v-slot="{ hold }" :shot="shot" @drag="emit('drag', $event)">
    <template v-if="end">
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
        :class="{ unset: dragged === null && !end[layer] }"
        tabindex="0"
        role="slider"
        aria-label="The edge along the cable"
        :aria-valuenow="Math.round((handleMm ?? 0) * 10) / 10"
        :cx="at.x"
        :cy="at.y"
        :r="shot.width / 60"
        data-test="edge-handle"
        @pointerdown="hold"
        @keydown="key"
      />
    </template>
  </ShotFrame>
</template>

<style scoped>
.card {
  opacity: 0.6;
  stroke-dasharray: 6 6;
}
.path {
  opacity: 0.6;
  stroke-dasharray: 1 5;
}
.unset {
  stroke-dasharray: 6 6;
}
.tip,
.chosen {
  --stroke: #ffd24a;
  --stroke-width: 3px;
}
</style>
