<script setup lang="ts">
import type { ChainDrawing, ChainItem } from '@clear-mark/core';
import { computed } from 'vue';

/** Source to meter, as they are joined for the reference or for the test, with what is inside the measured span. */
const props = defineProps<{ chain: ChainDrawing; label: string }>();

const NAMES: Readonly<Record<ChainItem, string>> = {
  source: 'source',
  launch: 'launch cord',
  breakout: 'breakout cord',
  breakout_launch: 'breakout launch cord',
  middle: 'middle cord',
  link: 'link',
  receive: 'receive cord',
  receive_mpo: 'receive cord',
  meter: 'meter',
  large_meter: 'large-area meter',
};
const STEP = 128;
const Y = 46;
const width = computed(() => props.chain.items.length * STEP);
const at = (i: number): number => i * STEP + STEP / 2;
const isBox = (item: ChainItem): boolean => ['source', 'meter', 'large_meter', 'link'].includes(item);
const isMany = (item: ChainItem): boolean => item.startsWith('breakout');
/** From the first counted joint, or the link, to the last. */
const span = computed(() => {
  const counted = props.chain.joints.flatMap((j, i) => (j === 'counted' ? [i + 0.5] : []));
  const link = props.chain.items.indexOf('link');
  if (link < 0) return null;
  const from = Math.min(link - 0.32, ...counted.map((c) => c - 0.14));
  const to = Math.max(link + 0.32, ...counted.map((c) => c + 0.14));
  return { x: at(from), width: at(to) - at(from) };
});
const count = computed(() => props.chain.joints.filter((j) => j === 'counted').length);
</script>

<template>
  <figure>
    <figcaption>{{ label }}</figcaption>
    <svg
      :viewBox="`0 0 ${width} 130`"
      role="img"
      :aria-label="`${label}: ${chain.items.map((i) => NAMES[i]).join(', ')}`"
    >
      <rect v-if="span" class="span" :x="span.x" y="6" :width="span.width" height="76" rx="6" />
      <g v-for="(item, i) in chain.items" :key="i" :transform="`translate(${at(i)} ${Y})`">
        <template v-if="isBox(item)">
          <rect class="box" x="-42" y="-24" width="84" height="48" rx="5" />
          <path v-if="item === 'source'" d="M-14 0h18m-6 -6l8 6l-8 6" />
          <path v-else-if="item === 'link'" class="link" d="M-42 0h84" />
          <path v-else d="M-14 8a16 16 0 0 1 28 0M0 8l7 -9" />
        </template>
        <path
          v-else-if="isMany(item)"
          class="cord"
          d="M-50 -9C-20 -9 -20 0 10 0H50M-50 0H50M-50 9C-20 9 -20 0 10 0"
        />
        <path v-else class="cord" d="M-50 0C-26 -26 26 26 50 0" />
        <text y="50" text-anchor="middle">{{ NAMES[item] }}</text>
      </g>
      <g v-for="(joint, i) in chain.joints" :key="`j${i}`" :transform="`translate(${at(i) + STEP / 2} ${Y})`">
        <rect v-if="joint === 'port'" class="port" x="-5" y="-9" width="10" height="18" />
        <circle v-else-if="joint === 'counted'" class="counted" r="11" />
        <circle v-else class="zeroed" r="11" />
        <text v-if="joint !== 'port'" y="5" text-anchor="middle" :class="joint">
          {{ joint === 'counted' ? '1' : '0' }}
        </text>
      </g>
      <text v-if="span" :x="span.x + span.width / 2" y="124" text-anchor="middle" class="inside">
        in the reading: the link{{
          count > 0 ? ` and ${count} ${count === 1 ? 'pair' : 'pairs'} at its ends` : ' alone'
        }}
      </text>
    </svg>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
}
figcaption {
  font-weight: 700;
}
svg {
  width: 100%;
  max-width: 780px;
  display: block;
}
.span {
  fill: var(--band);
  opacity: 0.55;
}
.box {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 2;
}
path {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}
.cord {
  stroke: var(--buffer);
  stroke-width: 5;
}
:root[data-theme='dark'] .cord {
  stroke: var(--jacket);
}
.link {
  stroke: var(--glass);
  stroke-width: 4;
}
.port {
  fill: var(--ink);
}
.counted {
  fill: var(--accent);
}
.zeroed {
  fill: var(--sheet);
  stroke: var(--ink-soft);
  stroke-width: 2;
  stroke-dasharray: 4 3;
}
text {
  font-size: 14px;
  fill: var(--ink);
}
text.counted {
  fill: var(--accent-ink);
  font-weight: 700;
}
text.zeroed {
  fill: var(--ink-soft);
  stroke: none;
}
.inside {
  fill: var(--ink-soft);
}
</style>
