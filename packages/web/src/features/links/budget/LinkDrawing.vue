<script setup lang="ts">
import type { LinkPlan, LinkSegment, TrunkType } from '@clear-mark/core';
import { computed } from 'vue';
import { distanceWords } from '../../../shared/limit-words.ts';

/** The link as it lies: ends, cables, splices, connections, cassettes and trunks, drawn from its description. */
const props = defineProps<{ plan: LinkPlan; unit: 'm' | 'ft'; selected: number | null }>();
const emit = defineEmits<{ select: [segment: number]; joint: [joint: number]; end: [end: 0 | 1] }>();

const PART = 150;
const GAP = 34;
const LEFT = 58;
const Y = 68;
const width = computed(
  () => LEFT * 2 + props.plan.segments.length * (PART + GAP) - (props.plan.segments.length > 0 ? GAP : 0),
);
const x = (i: number): number => LEFT + i * (PART + GAP);
const lengthOf = (s: LinkSegment): string =>
  s.kind === 'cassette' ? '' : distanceWords(Math.round(s.lengthM * 1000) / 1000, props.unit);
const nameOf = (s: LinkSegment): string =>
  s.kind === 'cable'
    ? 'cable'
    : s.kind === 'trunk'
      ? `trunk type ${s.trunk}`
      : s.turned
        ? 'cassette, turned'
        : 'cassette';
const fan = [-15, -9, -3, 3, 9, 15];
const trunkLines = (type: TrunkType): string =>
  fan
    .map((y, i) => {
      const to = type === 'A' ? y : type === 'B' ? -y : fan[i % 2 === 0 ? i + 1 : i - 1]!;
      return `M18 ${y}C60 ${y} 90 ${to} ${PART - 18} ${to}`;
    })
    .join('');
</script>

<template>
  <div class="scroll">
    <svg
      :viewBox="`0 0 ${width} 136`"
      :width="width"
      height="136"
      role="group"
      aria-label="The link, near end on the left"
    >
      <g
        v-for="side in [0, 1] as const"
        :key="side"
        class="end tap"
        role="button"
        tabindex="0"
        :aria-label="`${side === 0 ? 'Near' : 'Far'} end: ${plan.ends[side]}. Change`"
        :transform="`translate(${side === 0 ? LEFT - 8 : width - LEFT + 8} ${Y}) scale(${side === 0 ? 1 : -1} 1)`"
        @click="emit('end', side)"
        @keydown.enter.prevent="emit('end', side)"
        @keydown.space.prevent="emit('end', side)"
      >
        <rect x="-50" y="-40" width="56" height="80" class="hit" />
        <path v-if="plan.ends[side] === 'panel'" d="M-12 -30v60M-12 -10h14v20h-14Z" />
        <path v-else-if="plan.ends[side] === 'plug'" d="M-26 -8h20v16h-20Z M-34 -4h8v8h-8Z" />
        <path v-else class="bare" d="M-30 0h30" />
        <text
          :transform="side === 1 ? 'scale(-1 1)' : ''"
          :x="side === 0 ? -28 : 28"
          y="52"
          text-anchor="middle"
        >
          {{ plan.ends[side] }}
        </text>
      </g>
      <g v-for="(segment, i) in plan.segments" :key="i">
        <g
          class="tap"
          :class="{ selected: selected === i }"
          role="button"
          tabindex="0"
          :aria-label="`Part ${i + 1}: ${nameOf(segment)} ${lengthOf(segment)}`"
          :aria-pressed="selected === i"
          :transform="`translate(${x(i)} ${Y})`"
          @click="emit('select', i)"
          @keydown.enter.prevent="emit('select', i)"
          @keydown.space.prevent="emit('select', i)"
        >
          <rect x="0" y="-58" :width="PART" height="120" class="hit" />
          <template v-if="segment.kind === 'cable'">
            <path class="jacket" :d="`M0 0C${PART * 0.3} -12 ${PART * 0.7} 12 ${PART} 0`" />
            <path class="core" :d="`M0 0C${PART * 0.3} -12 ${PART * 0.7} 12 ${PART} 0`" />
          </template>
          <template v-else-if="segment.kind === 'trunk'">
            <path class="row" :d="`M0 -22h14v44h-14ZM${PART - 14} -22h14v44h-14Z`" />
            <path class="fiber" :d="trunkLines(segment.trunk)" />
            <path v-if="segment.pins" class="pin" :d="`M-6 -14h6M-6 14h6M${PART} -14h6M${PART} 14h6`" />
          </template>
          <template v-else>
            <path class="box" :d="`M14 -30h${PART - 28}v60h-${PART - 28}Z`" />
            <path
              class="fiber"
              :d="fan.map((y) => `M28 ${segment.turned ? -y : y}L${PART - 28} ${y * 1.35}`).join('')"
            />
            <path
              v-if="segment.turned"
              class="turn"
              :d="`M${PART / 2 - 10} -36a10 7 0 0 1 20 0m-6 -4l6 4l3 -7`"
            />
          </template>
          <text :x="PART / 2" y="-41" text-anchor="middle" class="name">{{ nameOf(segment) }}</text>
          <text :x="PART / 2" y="52" text-anchor="middle">
            {{ lengthOf(segment) }}{{ segment.polish === 'angled' ? ' angled' : '' }}
          </text>
        </g>
        <g
          v-if="i < plan.joints.length"
          class="tap joint"
          role="button"
          tabindex="0"
          :aria-label="`Joint ${i + 1}: ${plan.joints[i]}. Change`"
          :transform="`translate(${x(i) + PART + GAP / 2} ${Y})`"
          @click="emit('joint', i)"
          @keydown.enter.prevent="emit('joint', i)"
          @keydown.space.prevent="emit('joint', i)"
        >
          <rect x="-22" y="-24" width="44" height="88" class="hit" />
          <path
            v-if="plan.joints[i] === 'connection'"
            d="M-13 -12v24a12 12 0 0 0 0 -24ZM13 -12v24a12 12 0 0 1 0 -24Z"
          />
          <path v-else class="splice" d="M-17 0h34M-7 -7l14 14M-7 7l14 -14" />
          <text y="52" text-anchor="middle">{{ plan.joints[i] === 'connection' ? 'pair' : 'splice' }}</text>
        </g>
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
.tap:focus-visible > .hit,
.tap:hover > .hit {
  fill: var(--sunk);
}
.selected > .hit {
  fill: var(--accent-wash);
  stroke: var(--accent);
  stroke-width: 2;
}
path {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}
.jacket {
  stroke: var(--jacket);
  stroke-width: 11;
}
.core {
  stroke: var(--sheet);
  stroke-width: 3;
}
.fiber {
  stroke: var(--glass);
  stroke-width: 1.6;
}
.box,
.row {
  fill: var(--sheet);
}
.joint path {
  fill: var(--sheet);
}
.pin {
  stroke-width: 4;
}
.splice {
  stroke-width: 3;
}
.bare {
  stroke-dasharray: 5 4;
}
text {
  font-size: 13.5px;
  fill: var(--ink-soft);
}
.name {
  fill: var(--ink);
}
</style>
