<script setup lang="ts">
import type { MeasuredSplice, PicturePlace, SpliceReading } from '@clear-mark/core';
import type { Shot } from './keep-measured.ts';
import ShotFrame from './ShotFrame.vue';

/** A joint with the edges and axes that were found, one view or two. Where it lies is dragged, or moved by the arrows. */
const props = defineProps<{
  shot: Shot<SpliceReading>;
  joint: MeasuredSplice | null;
  dragged: number | null;
}>();
const emit = defineEmits<{ drag: [column: number]; settle: [] }>();
const points = (places: readonly PicturePlace[]): string => places.map((p) => `${p.x},${p.y}`).join(' ');
/** Half the height of the line that shows the joint: a little over the glass. */
const reach = (edges: readonly (readonly PicturePlace[])[]): number => {
  const rows = edges.flatMap((e) => e.map((p) => p.y));
  return rows.length === 0 ? 20 : 0.62 * (Math.max(...rows) - Math.min(...rows));
};
const columnOf = (joint: PicturePlace): number => props.dragged ?? joint.x;
function key(event: KeyboardEvent, joint: PicturePlace): void {
  const way = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
  if (way === 0) return;
  event.preventDefault();
  emit('drag', columnOf(joint) + way);
  emit('settle');
}
</script>

<template>
  <ShotFrame v-slot="{ hold }" :shot="shot" @drag="emit('drag', $event.x)" @release="emit('settle')">
    <g v-for="(view, i) in joint?.views ?? []" :key="i">
      <polyline v-for="(edge, j) in view.edges" :key="`e${j}`" class="edge" :points="points(edge)" />
      <polyline v-for="(axis, j) in view.axes" :key="`a${j}`" class="axis" :points="points(axis)" />
      <line
        class="joint"
        :x1="columnOf(view.joint)"
        :x2="columnOf(view.joint)"
        :y1="view.joint.y - reach(view.edges)"
        :y2="view.joint.y + reach(view.edges)"
      />
      <circle
        class="handle"
        tabindex="0"
        role="slider"
        aria-label="Where the joint lies"
        :aria-valuenow="Math.round(columnOf(view.joint))"
        :cx="columnOf(view.joint)"
        :cy="view.joint.y"
        :r="shot.width / 60"
        :data-test="`joint-${i}`"
        @pointerdown="hold"
        @keydown="key($event, view.joint)"
      />
    </g>
  </ShotFrame>
</template>

<style scoped>
.edge {
  stroke-dasharray: 5 4;
}
.axis {
  opacity: 0.7;
  stroke-dasharray: 1 5;
}
.joint {
  --stroke: #ffd24a;
  --stroke-width: 2px;
}
</style>
