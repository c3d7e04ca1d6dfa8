<script setup lang="ts">
import { type Markers, traceOutline, type TraceEvent, type TraceMark } from '@clear-mark/core';
import { useElementSize } from '@vueuse/core';
import { scaleLinear } from 'd3-scale';
import { computed, ref, useId } from 'vue';
import { usePreferences } from '../../../../shell/preferences.ts';
import { useZoom } from '../../../../shared/use-zoom.ts';
import type { ShownTrace } from './shown-trace.ts';
import TraceMarkers from './TraceMarkers.vue';
import TraceOverview from './TraceOverview.vue';
import { type Axis, inUnit, levelRange, outlinePath, placeWords } from './trace-view.model.ts';

/** One trace or several over each other, brought near as far as their points go. */
const props = defineProps<{
  traces: readonly ShownTrace[];
  events: readonly TraceEvent[];
  markers: Markers | null;
  marks: readonly TraceMark[];
  marking: boolean;
  label: string;
}>();
const emit = defineEmits<{
  markers: [markers: Markers];
  mark: [positionM: number];
  event: [index: number];
}>();
const preferences = usePreferences();

const HEIGHT = 340;
const LEFT = 52;
const TOP = 34;
const BOTTOM = 30;
const MOST = 4000;
const box = ref<HTMLElement | null>(null);
const svg = ref<SVGSVGElement | null>(null);
const clip = useId();
const { width } = useElementSize(box, { width: 900, height: HEIGHT });
const zoom = useZoom(svg, MOST);
const { at, key } = zoom;

const endM = computed(() =>
  Math.max(...props.traces.map(({ trace: t }) => t.firstM + (t.levelsDb.length - 1) * t.spacingM)),
);
const beginM = computed(() => Math.min(...props.traces.map(({ trace }) => trace.firstM)));
const plotPx = computed(() => Math.max(200, width.value - LEFT - 8));
const base = computed(() =>
  scaleLinear()
    .domain([beginM.value, endM.value])
    .range([LEFT, LEFT + plotPx.value]),
);
/** No place beyond either end is ever shown. */
const x = computed(() => {
  const [from, to] = at.value.rescaleX(base.value).domain() as [number, number];
  const span = Math.min(to - from, endM.value - beginM.value);
  const first = Math.min(Math.max(from, beginM.value), endM.value - span);
  return base.value.copy().domain([first, first + span]);
});
const axis = computed((): Axis => {
  const now = x.value;
  return { toPx: (m) => now(m), toM: (px) => now.invert(px) };
});
const shown = computed(() => x.value.domain() as [number, number]);
const outlines = computed(() =>
  props.traces.map(({ trace, groups }) =>
    traceOutline(trace, groups, shown.value[0], shown.value[1], Math.round(plotPx.value)),
  ),
);
const y = computed(() =>
  scaleLinear()
    .domain(
      levelRange(
        outlines.value,
        props.traces.map((t) => t.analysis),
      ),
    )
    .range([HEIGHT - BOTTOM, TOP]),
);
const paths = computed(() =>
  outlines.value.map((o) => outlinePath(o, LEFT, plotPx.value / o.lows.length, y.value)),
);
const unit = computed(() => preferences.distanceUnit);
const xTicks = computed(() => {
  const [from, to] = shown.value.map((m) => inUnit(m, unit.value)) as [number, number];
  const scale = scaleLinear().domain([from, to]).range(x.value.range());
  return scale.ticks(Math.max(3, Math.floor(plotPx.value / 110))).map((t) => ({ t, px: scale(t) }));
});
const yTicks = computed(() => y.value.ticks(6).map((t) => ({ t, px: y.value(t) })));
const yStep = computed(() => Math.abs((yTicks.value[1]?.t ?? 1) - (yTicks.value[0]?.t ?? 0)));
const isIn = (m: number): boolean => m >= shown.value[0] && m <= shown.value[1];

function tapped(event: MouseEvent): void {
  if (!props.marking || !svg.value) return;
  const px = event.clientX - svg.value.getBoundingClientRect().left;
  if (px >= LEFT) emit('mark', x.value.invert(px));
}
/** Brings a part into view. */
function show(fromM: number, toM: number): void {
  zoom.show(base.value(fromM), base.value(toM), LEFT, LEFT + plotPx.value);
}
defineExpose({ show });
</script>

<template>
  <div ref="box" class="trace">
    <svg
      ref="svg"
      :height="HEIGHT"
      width="100%"
      tabindex="0"
      role="img"
      :aria-label="`${label}. Shown from ${placeWords(shown[0], unit)} to ${placeWords(shown[1], unit)}. Plus, minus, arrows and 0 move the view.`"
      :class="{ marking }"
      @keydown="key"
      @click="tapped"
    >
      <g class="grid">
        <line v-for="t in yTicks" :key="`y${t.t}`" :x1="LEFT" :x2="LEFT + plotPx" :y1="t.px" :y2="t.px" />
        <text v-for="t in yTicks" :key="`t${t.t}`" :x="LEFT - 6" :y="t.px + 4" text-anchor="end">
          {{ t.t.toFixed(yStep < 0.1 ? 2 : yStep < 1 ? 1 : 0) }}
        </text>
        <text v-for="t in xTicks" :key="`x${t.t}`" :x="t.px" :y="HEIGHT - 10" text-anchor="middle">
          {{ Number(t.t.toFixed(3)) }}
        </text>
        <text :x="LEFT + plotPx" :y="HEIGHT - BOTTOM - 6" text-anchor="end">{{ unit }}</text>
        <text x="4" :y="TOP - 12">dB</text>
      </g>
      <g v-for="(e, i) in events" :key="i">
        <g v-if="isIn(e.positionM)" class="event" :class="{ ghost: e.ghost }" @click.stop="emit('event', i)">
          <line :x1="x(e.positionM)" :x2="x(e.positionM)" :y1="TOP - 8" :y2="HEIGHT - BOTTOM" />
          <rect :x="x(e.positionM) - 13" :y="TOP - 30" width="26" height="22" rx="4" />
          <text :x="x(e.positionM)" :y="TOP - 14" text-anchor="middle">{{ i + 1 }}</text>
        </g>
      </g>
      <clipPath :id="clip">
        <rect :x="LEFT" :y="TOP" :width="plotPx" :height="HEIGHT - BOTTOM - TOP" />
      </clipPath>
      <g :clip-path="`url(#${clip})`">
        <path v-for="(d, i) in paths" :key="traces[i]!.key" class="line" :class="`line-${i % 5}`" :d="d" />
      </g>
      <template v-for="(m, i) in marks" :key="`m${i}`">
        <g v-if="isIn(m.positionM)" class="mark" :class="m.kind">
          <line :x1="x(m.positionM)" :x2="x(m.positionM)" :y1="TOP" :y2="HEIGHT - BOTTOM" />
          <path :d="`M${x(m.positionM)} ${TOP}l-8 -14h16Z`" />
        </g>
      </template>
      <TraceMarkers
        v-if="markers"
        :markers="markers"
        :axis="axis"
        :top="TOP"
        :bottom="HEIGHT - BOTTOM"
        :unit="unit"
        @move="emit('markers', $event)"
      />
    </svg>
    <TraceOverview
      :traces="traces"
      :width="width"
      :left="LEFT"
      :plot-px="plotPx"
      :begin-m="beginM"
      :end-m="endM"
      :shown="shown"
      @show="show"
    />
    <div class="row tools" role="group" aria-label="View of the trace">
      <el-button size="large" aria-label="Nearer" @click="zoom.closer()">+</el-button>
      <el-button size="large" aria-label="Further away" @click="zoom.further()">−</el-button>
      <el-button size="large" :disabled="at.k === 1" @click="zoom.reset()">Whole trace</el-button>
      <slot />
    </div>
  </div>
</template>

<style scoped>
.trace {
  min-width: 0;
  margin-top: 10px;
}
svg {
  display: block;
  background: var(--sheet);
  border: 1px solid var(--hair);
  border-radius: var(--round);
  touch-action: pan-y;
}
svg:focus-visible {
  outline: 3px solid var(--accent);
  outline-offset: 1px;
}
.marking {
  cursor: crosshair;
}
.grid line {
  stroke: var(--hair);
}
text {
  font-size: 13px;
  fill: var(--ink-soft);
}
.line {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.4;
}
.line-1 {
  stroke: var(--accent);
}
.line-2 {
  stroke: var(--ink-soft);
  stroke-dasharray: 7 3;
}
.line-3 {
  stroke: var(--accent);
  stroke-dasharray: 2 3;
}
.line-4 {
  stroke: var(--jacket);
}
.event {
  cursor: pointer;
}
.event line {
  stroke: var(--hair-strong);
}
.event rect {
  fill: var(--sheet);
  stroke: var(--hair-strong);
}
.event text {
  fill: var(--ink);
  font-weight: 700;
}
.event.ghost line,
.event.ghost rect {
  stroke-dasharray: 3 3;
}
.mark path {
  fill: var(--accent);
}
.mark line {
  stroke: var(--accent);
}
.mark.ghost path {
  fill: var(--sheet);
  stroke: var(--accent);
}
.mark.ghost line {
  stroke-dasharray: 3 3;
}
.tools {
  margin: 8px 0 12px;
  flex-wrap: wrap;
}
</style>
