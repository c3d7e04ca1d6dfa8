<script setup lang="ts">
import type { Place, StripGeometry } from '@clear-mark/core';
import { computed } from 'vue';

/**
 * The prepared end from the side and to scale: jacket, yarn, buffer, glass, and the piece that the cleave takes
 * off. The part that the current step works on is drawn in the accent.
 */
const props = defineProps<{ strip: StripGeometry; place: Place | null; unit: 'mm' | 'in' }>();

const W = 640;
const SCALE = computed(() => (W - 150) / props.strip.jacketMm);
/** x of a point that lies this far from the stripped end, before the cleave. */
const x = (fromEndMm: number): number => W - 20 - fromEndMm * SCALE.value;
const jacketEdge = computed(() => x(props.strip.jacketMm));
const bufferEdge = computed(() => x(props.strip.bufferMm));
const face = computed(() => x(props.strip.bufferMm - props.strip.cleaveMm));
const on = (place: Place): boolean => props.place === place;
const length = (mm: number): string => (props.unit === 'in' ? `${(mm / 25.4).toFixed(2)} in` : `${mm} mm`);
</script>

<template>
  <svg
    class="strip"
    :viewBox="`0 0 ${W} 96`"
    role="img"
    :aria-label="`Prepared end to scale: jacket off ${length(strip.jacketMm)}, buffer off ${length(strip.bufferMm)}, cleave at ${length(strip.cleaveMm)}`"
  >
    <g :class="{ on: on('yarn') }" class="yarn">
      <path
        :d="`M${jacketEdge} 26Q${jacketEdge - 34} 4 ${jacketEdge - 84} 8M${jacketEdge} 30Q${jacketEdge - 30} 12 ${jacketEdge - 76} 14M${jacketEdge} 48Q${jacketEdge - 34} 70 ${jacketEdge - 84} 66M${jacketEdge} 44Q${jacketEdge - 30} 62 ${jacketEdge - 76} 60`"
      />
    </g>
    <rect :class="{ on: on('jacket') }" class="jacket" x="0" y="20" :width="jacketEdge" height="34" />
    <rect
      :class="{ on: on('buffer') }"
      class="buffer"
      :x="jacketEdge"
      y="31"
      :width="bufferEdge - jacketEdge"
      height="12"
    />
    <rect
      :class="{ on: on('glass') }"
      class="glass"
      :x="bufferEdge"
      y="35"
      :width="face - bufferEdge"
      height="4"
    />
    <line class="offcut" :x1="face" :x2="W - 20" y1="37" y2="37" />
    <line class="cut" :x1="face" :x2="face" y1="26" y2="48" />
    <g class="dim">
      <path :d="`M${bufferEdge} 62V68H${face}V62`" />
      <text :x="face + 6" y="70">cleave {{ length(strip.cleaveMm) }}</text>
      <path :d="`M${bufferEdge} 74V80H${W - 20}V74`" />
      <text :x="W - 22" y="94" text-anchor="end">buffer off {{ length(strip.bufferMm) }}</text>
      <path :d="`M${jacketEdge} 16V10H${W - 20}V16`" />
      <text :x="W - 22" y="24" text-anchor="end">jacket off {{ length(strip.jacketMm) }}</text>
    </g>
  </svg>
</template>

<style scoped>
.strip {
  width: 100%;
  max-height: 108px;
  display: block;
}
.jacket {
  fill: var(--jacket);
}
.buffer {
  fill: var(--buffer);
  stroke: var(--hair-strong);
}
.glass {
  fill: var(--glass);
}
.yarn {
  stroke: var(--yarn);
  stroke-width: 1.6;
  fill: none;
}
.offcut {
  stroke: var(--hair-strong);
  stroke-width: 2;
  stroke-dasharray: 3 4;
}
.cut {
  stroke: var(--ink);
  stroke-width: 1.5;
}
.dim path {
  fill: none;
  stroke: var(--ink-soft);
  stroke-width: 1;
}
.dim text {
  font-size: 13px;
  fill: var(--ink-soft);
}
.jacket.on,
.buffer.on,
.glass.on {
  fill: var(--accent);
}
.yarn.on {
  stroke: var(--accent);
  stroke-width: 3;
}
</style>
