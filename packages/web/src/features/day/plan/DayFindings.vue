<script setup lang="ts">
import { type MovedStep, type PlanFault, type TriedChange, whyLeft } from '@clear-mark/core';
import type { DayPlanBody, PlannedDay, StockItemShape } from '@clear-mark/contract';
import { computed } from 'vue';
import type { BoardNames } from './board.model.ts';
import { itemWords } from '../stock/stock.model.ts';
import { wantedOf } from './day-draft.model.ts';
import { changeWords, faultLines, whyWords } from './day-words.ts';

/** What there is to say of a plan: how good it is, what does not fit and what would help, what is in conflict, what was moved. */
const props = defineProps<{
  day: DayPlanBody;
  items: readonly StockItemShape[];
  /** What is short of stock, by piece. */
  shorts: ReadonlyMap<string, readonly string[]>;
  faults: readonly PlanFault[];
  over: number;
  moved: readonly MovedStep[];
  tried: readonly TriedChange[] | null;
  clashes: PlannedDay['clashes'];
  busy: boolean;
  names: BoardNames;
  clock: (minute: number) => string;
  tookMs: number | null;
}>();
defineEmits<{ fit: []; askChanges: [] }>();
const wanted = computed(() => wantedOf({ ...props.day, locks: [] }));
const shortWords = (items: readonly string[]): string =>
  `not enough that is good of ${items.map((i) => itemWords(props.items, i)).join(' and ')}: enter a new lot in Stock`;
const left = computed(() => {
  const groups = new Map<string, { words: string; count: number; who: Set<string>; title: string }>();
  for (const id of props.day.plan?.left ?? []) {
    const piece = props.day.pieces.find((p) => p.id === id);
    if (!piece) continue;
    const short = props.shorts.get(id);
    const why = short
      ? shortWords(short)
      : whyWords(whyLeft(wanted.value, piece, props.day.plan?.endsAt), props.clock);
    const title = props.names.titleOf(piece.methodVersionId);
    const group = groups.get(`${title} ${why}`) ?? { words: why, count: 0, who: new Set<string>(), title };
    group.count += 1;
    group.who.add(props.names.nameOf(piece.traineeId));
    groups.set(`${title} ${why}`, group);
  }
  return [...groups.values()];
});
/** Whether another day would help: stock that is missing is bought. */
const isAskable = computed(() => (props.day.plan?.left ?? []).some((id) => !props.shorts.has(id)));
const conflicts = computed(() => faultLines(props.faults));
const percent = computed(() => Math.round(props.over * 100));
const fits = computed(() => props.tried?.find((t) => t.left === 0) ?? null);
</script>

<template>
  <div class="findings">
    <p v-if="day.plan && day.plan.work.length > 0" class="soft" data-test="bound">
      {{ day.pieces.length - day.plan.left.length }} of {{ day.pieces.length }} pieces planned,
      {{
        percent === 0
          ? 'and no plan of them can end earlier'
          : `at the most ${percent} % longer than any plan has to be`
      }}<template v-if="tookMs !== null">, found in {{ (tookMs / 1000).toFixed(1) }} s</template>.
    </p>
    <div v-if="left.length > 0" class="notice bad" data-test="left">
      <b>Not in the plan:</b>
      <ul>
        <li v-for="g in left" :key="g.title + g.words">
          {{ g.count }} × {{ g.title }} ({{ [...g.who].join(', ') }}): {{ g.words }}
        </li>
      </ul>
      <el-button
        v-if="!tried && isAskable"
        class="tools"
        size="large"
        :loading="busy"
        data-test="what-would"
        @click="$emit('askChanges')"
        >What would make it fit</el-button
      >
      <template v-else-if="tried">
        <p v-if="fits" data-test="fits">
          <b>Everything fits with {{ changeWords(fits.change) }}.</b>
          <template v-if="fits.change.change !== 'shorter_list'">
            It ends at {{ clock(fits.endsAt) }} then.</template
          >
        </p>
        <ul class="small">
          <li v-for="t in tried.filter((one) => one.left > 0)" :key="changeWords(t.change)">
            with {{ changeWords(t.change) }}: {{ t.left === 1 ? 'one is' : `${t.left} are` }} still left out
          </li>
        </ul>
      </template>
    </div>
    <div v-if="conflicts.length > 0" class="notice bad row" data-test="conflicts">
      <span><b>In conflict:</b> {{ conflicts.join('; ') }}.</span>
      <el-button
        class="tools"
        size="large"
        type="primary"
        :loading="busy"
        data-test="fit"
        @click="$emit('fit')"
        >Fit the rest around what is locked</el-button
      >
    </div>
    <p v-if="moved.length > 0" class="notice" data-test="moved">
      {{ moved.length === 1 ? 'One step lies' : `${moved.length} steps lie` }} elsewhere than before;
      everything else stayed.
    </p>
    <p v-for="c in clashes" :key="c.thingId + c.className" class="notice bad" data-test="clash">
      {{ c.label }} is planned in {{ c.className }} on this day as well: take it out here, or settle it with
      them.
    </p>
  </div>
</template>

<style scoped>
ul {
  margin: 4px 0;
  padding-left: 20px;
}
</style>
