<script setup lang="ts">
import type { TraceEvent, TraceSpan } from '@clear-mark/core';
import { TRACE_EVENT_WORDS } from '@clear-mark/words';
import { computed } from 'vue';
import { usePreferences } from '../../../../shell/preferences.ts';
import { placeWords } from './trace-view.model.ts';

/** The fiber as the trace shows it: events in a row, what lies between them, cords as loops. Not to scale. */
const props = defineProps<{
  events: readonly TraceEvent[];
  spans: readonly TraceSpan[];
  link: { readonly fromM: number; readonly toM: number } | null;
  chosen: number | null;
}>();
const emit = defineEmits<{ choose: [event: number] }>();
const preferences = usePreferences();
const STEP = 158;
const LEFT = 40;
const Y = 58;
const x = (i: number): number => LEFT + (i + 1) * STEP;
const width = computed(() => LEFT + (props.events.length + 1) * STEP - STEP / 2);
const parts = computed(() =>
  props.events.map((event, i) => {
    const fromM = i === 0 ? 0 : props.events[i - 1]!.positionM;
    const middle = (fromM + event.positionM) / 2;
    const span = props.spans.find((s) => middle >= s.fromM && middle <= s.toM) ?? null;
    const { link } = props;
    const cord = link !== null && (middle < link.fromM || middle > link.toM);
    return { lengthM: event.positionM - fromM, span, cord };
  }),
);
const loss = (e: TraceEvent): string =>
  e.ghost
    ? 'ghost'
    : e.kind === 'end'
      ? 'end'
      : e.lossDb === null
        ? 'not parted'
        : `${e.lossDb.toFixed(2)} dB`;
</script>

<template>
  <div class="scroll">
    <svg
      :viewBox="`0 0 ${width} 124`"
      :width="width"
      height="124"
      role="group"
      aria-label="Events of the fiber in order, port on the left"
    >
      <path class="port" :d="`M${LEFT - 26} ${Y - 20}h26v40h-26Z`" />
      <g v-for="(part, i) in parts" :key="`s${i}`">
        <path v-if="part.cord" class="fiber cord" :d="`M${x(i - 1)} ${Y}h34c6 -26 46 -26 52 0h72`" />
        <path v-else class="fiber" :d="`M${x(i - 1)} ${Y}h${STEP}`" />
        <text :x="x(i - 1) + STEP / 2" :y="Y - 34" text-anchor="middle">
          {{ placeWords(part.lengthM, preferences.distanceUnit) }}
        </text>
        <text
          v-if="part.span?.dbPerKm != null"
          :x="x(i - 1) + STEP / 2"
          :y="Y + 24"
          text-anchor="middle"
          class="small"
        >
          {{ part.span.dbPerKm.toFixed(2) }} dB/km
        </text>
      </g>
      <g
        v-for="(e, i) in events"
        :key="i"
        class="tap"
        :class="{ chosen: chosen === i, ghost: e.ghost }"
        role="button"
        tabindex="0"
        :aria-pressed="chosen === i"
        :aria-label="`Event ${i + 1} at ${placeWords(e.positionM, preferences.distanceUnit)}: ${e.ghost ? 'ghost' : TRACE_EVENT_WORDS[e.kind]}`"
        :transform="`translate(${x(i)} ${Y})`"
        @click="emit('choose', i)"
        @keydown.enter.prevent="emit('choose', i)"
        @keydown.space.prevent="emit('choose', i)"
      >
        <rect class="hit" x="-36" y="-30" width="72" height="92" rx="6" />
        <path v-if="e.kind === 'end'" d="M0 -20v40M0 -12l10 -6M0 0l10 -6M0 12l10 -6" />
        <path
          v-else-if="e.kind === 'reflective'"
          class="shape"
          d="M-12 -12v24a12 12 0 0 0 0 -24ZM12 -12v24a12 12 0 0 1 0 -24Z"
        />
        <path v-else d="M-8 -8l16 16M-8 8l16 -16" />
        <text y="40" text-anchor="middle" class="number">{{ i + 1 }}</text>
        <text y="57" text-anchor="middle">{{ loss(e) }}</text>
      </g>
    </svg>
  </div>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}
svg {
  display: block;
}
path {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2.5;
}
.port,
.shape {
  fill: var(--sheet);
}
.fiber {
  stroke: var(--glass);
  stroke-width: 3;
}
.cord {
  stroke: var(--jacket);
}
.hit {
  fill: transparent;
  stroke: none;
}
.tap {
  cursor: pointer;
}
.tap:focus-visible {
  outline: none;
}
.tap:focus-visible .hit,
.tap:hover .hit {
  fill: var(--sunk);
}
.chosen .hit {
  fill: var(--accent-wash);
  stroke: var(--accent);
  stroke-width: 2;
}
.ghost path {
  stroke-dasharray: 3 3;
}
text {
  font-size: 13.5px;
  fill: var(--ink-soft);
}
.number {
  font-weight: 700;
  fill: var(--ink);
}
</style>
