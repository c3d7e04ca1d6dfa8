<script setup lang="ts">
import {
  FIBER_CLASSES,
  fiberListText,
  LINK_ENDS,
  type LinkPlan,
  type LinkSegment,
  readFiberList,
} from '@clear-mark/core';
import { computed, ref } from 'vue';
import ChoiceField from '../../../shared/ChoiceField.vue';
import CommitField from '../../../shared/CommitField.vue';
import OrderedList from '../../../shared/OrderedList.vue';
import { distanceWords } from '../../../shared/limit-words.ts';
import { movedSegment, withSegment } from './link.model.ts';
import LinkDrawing from './LinkDrawing.vue';

/** What a link is made of, drawn: parts are added, chosen and put in order, ends and joints turned. */
const props = defineProps<{ plan: LinkPlan; unit: 'm' | 'ft'; selected: number | null }>();
const emit = defineEmits<{ select: [segment: number]; change: [plan: LinkPlan] }>();

function add(kind: LinkSegment['kind']): void {
  const next = withSegment(props.plan, kind);
  emit('change', next);
  emit('select', next.segments.length - 1);
}
const ordering = ref(false);
const parts = computed(() =>
  props.plan.segments.map((s, i) => ({
    key: `${i} ${s.kind}`,
    label: `Part ${i + 1}: ${s.kind}${s.kind === 'cassette' ? '' : `, ${distanceWords(s.lengthM, props.unit)}`}`,
  })),
);
function move(from: number, to: number): void {
  emit('change', movedSegment(props.plan, from, to));
  emit('select', to);
}
const darkProblem = ref<string | null>(null);
function setDark(text: string): void {
  const list = readFiberList(text, props.plan.fibers);
  darkProblem.value =
    list.kind === 'fibers'
      ? null
      : `“${list.text}” is no fiber from 1 to ${list.most}. Write them like 3, 7-8.`;
  if (list.kind === 'fibers') emit('change', { ...props.plan, darkFibers: list.fibers });
}
const next = <T>(list: readonly T[], now: T): T => list[(list.indexOf(now) + 1) % list.length]!;
function turnEnd(end: 0 | 1): void {
  const ends = [...props.plan.ends] as [LinkPlan['ends'][0], LinkPlan['ends'][1]];
  ends[end] = next(LINK_ENDS, ends[end]);
  emit('change', { ...props.plan, ends });
}
const turnJoint = (at: number): void =>
  emit('change', {
    ...props.plan,
    joints: props.plan.joints.map((j, i) => (i === at ? (j === 'splice' ? 'connection' : 'splice') : j)),
  });
</script>

<template>
  <div class="parts">
    <LinkDrawing
      :plan="plan"
      :unit="unit"
      :selected="selected"
      @select="emit('select', $event)"
      @joint="turnJoint"
      @end="turnEnd"
    />
    <p class="small soft">Tap an end or a joint to change it, a part to edit it.</p>
    <div class="row">
      <el-button size="large" @click="add('cable')">Add cable</el-button>
      <el-button size="large" @click="add('cassette')">Add cassette</el-button>
      <el-button size="large" @click="add('trunk')">Add trunk</el-button>
      <el-button
        v-if="plan.segments.length > 1"
        size="large"
        :aria-expanded="ordering"
        @click="ordering = !ordering"
        >Order</el-button
      >
      <ChoiceField
        inline
        label="Fiber"
        :model-value="plan.fiberClass"
        :options="FIBER_CLASSES.map((c) => ({ value: c, label: c }))"
        @change="(fiberClass) => emit('change', { ...plan, fiberClass })"
      />
      <ChoiceField
        v-if="plan.segments.some((s) => s.kind !== 'cable')"
        inline
        label="Fibers"
        :model-value="plan.fibers"
        :options="[8, 12, 24].map((n) => ({ value: n, label: String(n) }))"
        @change="(fibers) => emit('change', { ...plan, fibers })"
      />
      <label v-if="plan.fibers > 2" class="row inline">
        <span class="soft">Dark by design</span>
        <CommitField
          class="dark-list"
          label="Fibers that are dark by design, such as 5-8"
          placeholder="none"
          :value="fiberListText(plan.darkFibers ?? [])"
          @commit="setDark"
        />
      </label>
    </div>
    <p v-if="darkProblem" class="notice bad" role="alert">{{ darkProblem }}</p>
    <OrderedList
      v-if="ordering && plan.segments.length > 1"
      :items="parts"
      label="Order of the parts"
      @move="move"
    />
  </div>
</template>

<style scoped>
.parts {
  display: grid;
  gap: 12px;
  min-width: 0;
}
.dark-list {
  width: 9em;
}
.inline {
  gap: 6px;
}
</style>
