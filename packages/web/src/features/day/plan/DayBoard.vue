<script setup lang="ts">
import type { DayPlanBody } from '@clear-mark/contract';
import { minuteOf } from '@clear-mark/core';
import { useElementSize } from '@vueuse/core';
import { scaleLinear } from 'd3-scale';
import { computed, ref } from 'vue';
import { type Block, type BoardRow, hourMarks } from './board.model.ts';
import BoardFoot from './BoardFoot.vue';
import { useBlockDrag } from './use-block-drag.ts';

/**
 * Benches, ovens and stations against time. A block is dragged to another minute, to another station of its kind or another oven, or moved by the arrows; there it is locked. Enter or a
 * double tap puts a lock on or takes it off.
 */
const props = defineProps<{
  day: DayPlanBody;
  rows: readonly BoardRow[];
  clock: (minute: number) => string;
  now: number | null;
}>();
const emit = defineEmits<{
  move: [block: Block, from: number, thingId: string | null];
  lock: [block: Block];
}>();
const ROW = 34;
const HEAD = 24;
const CLOSER = 5;
const AFTER = 20;
const frame = ref<HTMLElement | null>(null);
const svg = ref<SVGSVGElement | null>(null);
const { width: frameWidth } = useElementSize(frame);
const isClose = ref(false);
/** The block that is dragged, and the minute where it is. */
const held = ref<{ key: string; from: number } | null>(null);
const chosen = ref<Block | null>(null);

/** A little more than is planned: the rest of the day is empty. */
const ends = computed(() => {
  const planned = (props.day.plan?.endsAt ?? 0) + AFTER;
  const dayEnds = minuteOf(props.day, props.day.hours.at(-1)!.to);
  return Math.max(props.day.plan?.endsAt ?? 0, Math.min(dayEnds, planned));
});
const width = computed(() => Math.max(frameWidth.value, 300, isClose.value ? ends.value * CLOSER : 0));
const x = computed(() => scaleLinear().domain([0, ends.value]).range([0, width.value]));
const height = computed(() => HEAD + props.rows.length * ROW);
const breaks = computed(() =>
  props.day.hours.slice(1).map((h, i) => ({
    from: minuteOf(props.day, props.day.hours[i]!.to),
    to: minuteOf(props.day, h.from),
  })),
);
const marks = computed(() => hourMarks(props.day));
/** A gap where one kind of row ends and the next begins. */
const firstOf = (i: number): boolean => i > 0 && props.rows[i]!.group !== props.rows[i - 1]!.group;
const all = computed(() => new Map(props.rows.flatMap((r) => r.blocks.map((b) => [b.key, b] as const))));
const fromOf = (b: Block): number => (held.value?.key === b.key ? held.value.from : b.from);
const wide = (b: Block): number => Math.max(3, x.value(b.to - b.from) - 1);
const isMovable = (b: Block): boolean => b.kind !== 'cure';

useBlockDrag(svg, {
  bind: () => [props.rows, width.value],
  blockOf: (key) => all.value.get(key),
  x: () => x.value,
  choose: (block) => (chosen.value = block),
  hold: (block, from) => (held.value = block && { key: block.key, from }),
  drop: (block, from, y) => {
    const row = props.rows[Math.floor((y - HEAD) / ROW)];
    const thing = row && row.group !== 'trainee' ? row.key : null;
    if (from !== block.from || (row && thing && !row.blocks.some((b) => b.key === block.key)))
      emit('move', block, from, thing);
  },
});

const KEYS: Readonly<Record<string, number>> = { ArrowLeft: -1, ArrowRight: 1 };
function key(event: KeyboardEvent, block: Block): void {
  const by = KEYS[event.key];
  if (event.key === 'Enter') emit('lock', block);
  else if (by !== undefined && isMovable(block))
    emit('move', block, Math.max(0, block.from + by * (event.shiftKey ? 5 : 1)), null);
  else return;
  event.preventDefault();
}
const told = (b: Block): string =>
  `${b.title}, ${props.clock(b.from)} to ${props.clock(b.to)}${b.isLocked ? ', locked' : ''}${b.isWrong ? ', in conflict' : ''}`;
const current = computed(() => (chosen.value ? (all.value.get(chosen.value.key) ?? null) : null));
</script>

<template>
  <div class="board" data-test="board">
    <div class="names" aria-hidden="true">
      <div class="head" />
      <div v-for="(row, i) in rows" :key="row.key" class="name" :class="[row.group, { first: firstOf(i) }]">
        {{ row.label }}<span v-if="row.bench" class="soft bench">{{ row.bench }}</span>
      </div>
    </div>
    <div ref="frame" class="frame">
      <svg
        ref="svg"
        :width="width"
        :height="height"
        role="group"
        aria-label="The day: benches, ovens and stations against time"
      >
        <rect
          v-for="b in breaks"
          :key="`break ${b.from}`"
          class="break"
          :x="x(b.from)"
          y="0"
          :width="x(b.to) - x(b.from)"
          :height="height"
        />
        <g v-for="m in marks" :key="m.minute">
          <line class="hour" :x1="x(m.minute)" :x2="x(m.minute)" :y1="HEAD - 6" :y2="height" />
          <text class="clock" :x="x(m.minute) + 3" :y="HEAD - 9">{{ clock(m.minute) }}</text>
        </g>
        <line
          v-for="(row, i) in rows"
          :key="row.key"
          class="rule"
          :class="{ first: firstOf(i) }"
          x1="0"
          :x2="width"
          :y1="HEAD + i * ROW"
          :y2="HEAD + i * ROW"
        />
        <template v-for="(row, i) in rows" :key="`blocks ${row.key}`">
          <g
            v-for="b in row.blocks"
            :key="b.key"
            class="block"
            :class="[
              b.kind,
              b.station ?? 'bench',
              { movable: isMovable(b), locked: b.isLocked, wrong: b.isWrong, moved: b.isMoved },
            ]"
            :data-key="b.key"
            :transform="`translate(${x(fromOf(b))} ${HEAD + i * ROW + 4})`"
            tabindex="0"
            role="button"
            :aria-label="told(b)"
            @focus="chosen = b"
            @click="chosen = b"
            @dblclick="emit('lock', b)"
            @keydown="key($event, b)"
          >
            <title>{{ told(b) }}</title>
            <rect v-if="b.kind === 'cure'" :width="wide(b)" height="5" :y="ROW - 9" />
            <rect v-else :width="wide(b)" :height="ROW - 10" rx="3" />
            <svg v-if="wide(b) > 22 && b.kind !== 'cure'" :width="wide(b)" :height="ROW - 10">
              <text x="4" :y="(ROW - 8) / 2 + 5">{{ b.label }}</text>
            </svg>
            <circle v-if="b.isLocked" :cx="wide(b) - 5" cy="5" r="3.5" />
          </g>
        </template>
        <line v-if="now !== null" class="now" :x1="x(now)" :x2="x(now)" y1="0" :y2="height" />
      </svg>
    </div>
    <BoardFoot
      class="foot"
      :is-close="isClose"
      :told="current && told(current)"
      :is-locked="current?.isLocked ?? false"
      @closer="isClose = !isClose"
      @lock="current && emit('lock', current)"
    />
  </div>
</template>

<style scoped>
.board {
  display: grid;
  grid-template-columns: 160px 1fr;
  margin-top: 12px;
}
.frame {
  overflow-x: auto;
  min-width: 0;
}
svg {
  display: block;
  touch-action: pan-y;
}
.head {
  height: 24px;
}
.name {
  height: 34px;
  line-height: 34px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  padding-right: 8px;
  border-top: 1px solid var(--hair);
}
.name:has(.bench) {
  line-height: 17px;
}
.bench {
  display: block;
  font-size: 12px;
}
.name.first,
.rule.first {
  border-color: var(--ink-soft);
  stroke: var(--ink-soft);
}
.name.oven,
.name.station {
  color: var(--ink-soft);
}
.rule,
.hour {
  stroke: var(--hair);
}
.break {
  fill: var(--sunk);
}
.clock {
  font-size: 12px;
  fill: var(--ink-soft);
}
.now {
  stroke: var(--accent);
  stroke-width: 2;
}
.block {
  cursor: default;
}
.block.movable {
  cursor: grab;
}
.block rect {
  fill: var(--sunk);
  stroke: var(--hair-strong);
}
.block:not(.bench) rect {
  fill: var(--band);
  stroke: var(--accent);
}
.block.cure rect,
.block.load rect {
  fill: var(--marginal-wash);
  stroke: var(--marginal);
}
.block.cure rect {
  stroke-dasharray: 3 2;
}
.block.wrong rect {
  fill: var(--fail-wash);
  stroke: var(--fail);
  stroke-width: 2.5;
}
.block.moved rect {
  stroke-width: 2.5;
}
.block text {
  font-size: 12.5px;
  fill: var(--ink);
  pointer-events: none;
}
.block circle {
  fill: var(--ink);
}
.block:focus-visible {
  outline: 3px solid var(--accent);
  outline-offset: 1px;
}
.foot {
  grid-column: 1 / -1;
}
</style>
