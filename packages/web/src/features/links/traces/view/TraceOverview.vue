<script setup lang="ts">
import { traceOutline } from '@clear-mark/core';
import { brushX, type D3BrushEvent } from 'd3-brush';
import { select } from 'd3-selection';
import { scaleLinear } from 'd3-scale';
import { computed, onMounted, onScopeDispose, ref, watch } from 'vue';
import type { ShownTrace } from './shown-trace.ts';
import { outlinePath } from './trace-view.model.ts';

/** The whole trace, small; what is brushed over on it is shown large. */
const props = defineProps<{
  traces: readonly ShownTrace[];
  width: number;
  left: number;
  plotPx: number;
  beginM: number;
  endM: number;
  shown: readonly [number, number];
}>();
const emit = defineEmits<{ show: [fromM: number, toM: number] }>();
const HEIGHT = 46;
const group = ref<SVGGElement | null>(null);
const x = computed(() =>
  scaleLinear()
    .domain([props.beginM, props.endM])
    .range([props.left, props.left + props.plotPx]),
);
const path = computed(() => {
  const { trace, groups } = props.traces[0]!;
  const outline = traceOutline(trace, groups, props.beginM, props.endM, Math.round(props.plotPx));
  const levels = [...outline.highs].filter((v) => !Number.isNaN(v));
  const y = scaleLinear()
    .domain([Math.min(...levels) - 1, Math.max(...levels)])
    .range([HEIGHT - 4, 4])
    .clamp(true);
  return outlinePath(outline, props.left, props.plotPx / outline.lows.length, y);
});

const brush = brushX<unknown>().on('end', ({ selection, sourceEvent }: D3BrushEvent<unknown>) => {
  if (!sourceEvent) return;
  const [from, to] = (selection ?? x.value.range()) as [number, number];
  emit('show', x.value.invert(from), x.value.invert(to));
});
function place(): void {
  if (!group.value) return;
  const on = select<SVGGElement, unknown>(group.value);
  brush.extent([
    [props.left, 1],
    [props.left + props.plotPx, HEIGHT - 1],
  ]);
  on.call(brush);
  const whole = props.shown[0] <= props.beginM && props.shown[1] >= props.endM;
  const part: [number, number] = [x.value(props.shown[0]), x.value(props.shown[1])];
  on.call(brush.move, whole ? null : part);
}
onMounted(place);
watch(() => [props.shown, props.plotPx, props.beginM, props.endM], place);
onScopeDispose(() => group.value && select(group.value).on('.brush', null));
</script>

<template>
  <svg class="overview" :height="HEIGHT" width="100%" aria-hidden="true">
    <path :d="path" />
    <g ref="group" />
  </svg>
</template>

<style scoped>
.overview {
  display: block;
  margin-top: 6px;
  background: var(--sunk);
  border-radius: var(--round);
}
path {
  fill: none;
  stroke: var(--ink-soft);
}
.overview :deep(.selection) {
  fill: var(--accent);
  fill-opacity: 0.18;
  stroke: var(--accent);
}
</style>
