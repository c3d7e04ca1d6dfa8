<script setup lang="ts">
import { isMarginal, type Verdict } from '@clear-mark/core';
import { computed } from 'vue';
import { type BandScale, shareOn } from './band-scale.model.ts';

/** A tolerance band to scale: target mark, limits, and a tick where the value falls. */
const props = defineProps<{
  scale: BandScale;
  value: number | null;
  verdict: Verdict | null;
  unit: string;
}>();

const W = 260;
const PAD = 12;
const x = (value: number): number => PAD + shareOn(props.scale, value).share * (W - 2 * PAD);
const left = computed(() => (props.scale.lower === null ? PAD : x(props.scale.lower)));
const right = computed(() => (props.scale.upper === null ? W - PAD : x(props.scale.upper)));
const tick = computed(() =>
  props.value === null ? null : { x: x(props.value), outside: shareOn(props.scale, props.value).outside },
);
const tone = computed(() => {
  if (props.verdict === 'pass') return 'pass';
  if (props.verdict === 'fail') return 'fail';
  return props.verdict !== null && isMarginal(props.verdict) ? 'marginal' : 'open';
});
const text = (n: number): string => String(Math.round(n * 1000) / 1000);
</script>

<template>
  <svg class="band" :viewBox="`0 0 ${W} 44`" :class="tone" aria-hidden="true">
    <line :x1="PAD" :x2="W - PAD" y1="18" y2="18" class="axis" />
    <rect :x="left" :width="Math.max(0, right - left)" y="11" height="14" class="inside" />
    <template v-if="scale.lower !== null">
      <line :x1="left" :x2="left" y1="7" y2="29" class="limit" />
      <text :x="left" y="41" text-anchor="middle">{{ text(scale.lower) }}</text>
    </template>
    <template v-if="scale.upper !== null">
      <line :x1="right" :x2="right" y1="7" y2="29" class="limit" />
      <text :x="right" y="41" text-anchor="middle">{{ text(scale.upper) }}</text>
    </template>
    <path v-if="scale.target !== null" class="target" :d="`M${x(scale.target)} 12l4 6l-4 6l-4 -6Z`" />
    <g v-if="tick" :transform="`translate(${tick.x} 0)`">
      <path v-if="tick.outside === 0" class="tick" d="M0 3V33" />
      <path v-else class="tick" :d="tick.outside === 1 ? 'M-7 9L3 18L-7 27' : 'M7 9L-3 18L7 27'" />
    </g>
  </svg>
</template>

<style scoped>
.band {
  width: 100%;
  max-width: 280px;
  height: 44px;
  display: block;
}
.axis {
  stroke: var(--hair-strong);
  stroke-width: 1;
}
.inside {
  fill: var(--band);
  stroke: none;
}
.limit {
  stroke: var(--ink);
  stroke-width: 1.5;
}
.target {
  fill: none;
  stroke: var(--ink-soft);
  stroke-width: 1.2;
}
text {
  font-size: 13px;
  fill: var(--ink-soft);
}
.tick {
  stroke: var(--ink);
  stroke-width: 4;
  fill: none;
}
.pass .tick {
  stroke: var(--pass);
}
.marginal .tick {
  stroke: var(--marginal);
}
.fail .tick {
  stroke: var(--fail);
}
</style>
