<script setup lang="ts">
import type { MethodSheet } from '@clear-mark/core';
import Sortable, { type SortableEvent } from 'sortablejs';
import { nextTick, onMounted, onUnmounted, ref, watch } from 'vue';
import type { CriterionPlace, Target } from './draft-edit.model.ts';

/** Steps and criteria of a draft in their order: chosen by a tap, put elsewhere by the handle or with Alt and an arrow. */
const props = defineProps<{
  sheet: MethodSheet;
  target: Target;
  /** How many problems each step and criterion has, by its id. */
  problems: ReadonlyMap<string, number>;
}>();
const emit = defineEmits<{
  choose: [target: Target];
  moveStep: [from: number, to: number];
  moveCriterion: [from: CriterionPlace, to: CriterionPlace];
  moveBy: [by: 1 | -1];
  addStep: [];
}>();
const list = ref<HTMLElement | null>(null);
let sortables: Sortable[] = [];

/** What was dragged goes back: the list is drawn from the draft, which is changed instead. */
function putBack({ item, from, oldIndex }: SortableEvent): void {
  const others = [...from.children].filter((c) => c !== item);
  from.insertBefore(item, others[oldIndex ?? 0] ?? null);
}
function makeSortable(): void {
  for (const s of sortables) s.destroy();
  if (!list.value) return;
  const steps = Sortable.create(list.value, {
    handle: '.step-handle',
    animation: 120,
    onEnd: (event) => {
      putBack(event);
      if (event.oldIndex !== event.newIndex) emit('moveStep', event.oldIndex!, event.newIndex!);
    },
  });
  const criteria = [...list.value.querySelectorAll<HTMLElement>('.criteria')].map((home) =>
    Sortable.create(home, {
      group: 'criteria',
      handle: '.handle',
      animation: 120,
      onEnd: (event) => {
        putBack(event);
        const from = { step: event.from.dataset['step']!, at: event.oldIndex! };
        const to = { step: event.to.dataset['step']!, at: event.newIndex! };
        if (from.step !== to.step || from.at !== to.at) emit('moveCriterion', from, to);
      },
    }),
  );
  sortables = [steps, ...criteria];
}
onMounted(makeSortable);
onUnmounted(() => sortables.forEach((s) => s.destroy()));
watch(
  () => props.sheet.steps.map((s) => s.id).join(' '),
  () => void nextTick(makeSortable),
);
function onKey(event: KeyboardEvent): void {
  if (!event.altKey || (event.key !== 'ArrowUp' && event.key !== 'ArrowDown')) return;
  event.preventDefault();
  emit('moveBy', event.key === 'ArrowUp' ? -1 : 1);
}
const isStep = (id: string): boolean => props.target.on === 'step' && props.target.step === id;
const isCriterion = (id: string): boolean => props.target.on === 'criterion' && props.target.criterion === id;
</script>

<template>
  <nav class="outline" aria-label="Steps and criteria" @keydown="onKey">
    <button
      class="pick whole"
      type="button"
      :aria-current="target.on === 'method' ? 'true' : undefined"
      @click="emit('choose', { on: 'method' })"
    >
      The method as a whole
      <span v-if="problems.get('')" class="count">{{ problems.get('') }}</span>
    </button>
    <ol ref="list" class="steps">
      <li v-for="(step, i) in sheet.steps" :key="step.id" class="step">
        <div class="line">
          <span class="step-handle" aria-hidden="true">⋮⋮</span>
          <button
            class="pick name"
            type="button"
            :data-step="step.id"
            :aria-current="isStep(step.id) ? 'true' : undefined"
            @click="emit('choose', { on: 'step', step: step.id })"
          >
            {{ i + 1 }}. {{ step.title || 'no name' }}
            <span v-if="problems.get(step.id)" class="count">{{ problems.get(step.id) }}</span>
          </button>
        </div>
        <ol class="criteria" :data-step="step.id">
          <li v-for="c in step.criteria" :key="c.id" class="line">
            <span class="handle" aria-hidden="true">⋮⋮</span>
            <button
              class="pick"
              type="button"
              :data-pick="c.id.split('/').pop()"
              :aria-current="isCriterion(c.id) ? 'true' : undefined"
              @click="emit('choose', { on: 'criterion', step: step.id, criterion: c.id })"
            >
              {{ c.label || 'no name' }}
              <span v-if="problems.get(c.id)" class="count">{{ problems.get(c.id) }}</span>
            </button>
          </li>
        </ol>
      </li>
    </ol>
    <el-button size="large" @click="emit('addStep')">Add a step</el-button>
  </nav>
</template>

<style scoped>
.outline,
.steps,
.criteria {
  display: block;
  margin: 0;
  padding: 0;
  list-style: none;
}
.step {
  padding: 6px 0;
  border-top: 1px solid var(--hair);
}
.steps {
  margin: 6px 0 10px;
}
.line {
  display: flex;
  align-items: center;
}
.criteria {
  min-height: 6px;
}
.handle,
.step-handle {
  flex: 0 0 24px;
  min-height: 32px;
  display: grid;
  place-items: center;
  color: var(--ink-soft);
  letter-spacing: -0.2em;
  cursor: grab;
  touch-action: none;
}
.pick {
  flex: 1;
  min-width: 0;
  min-height: 36px;
  padding: 4px 8px;
  border: 0;
  border-left: 4px solid transparent;
  background: none;
  text-align: left;
  cursor: pointer;
  overflow-wrap: anywhere;
}
.pick.whole {
  width: 100%;
  font-weight: 700;
}
.pick.name {
  font-weight: 700;
}
.pick[aria-current] {
  border-left-color: var(--accent);
  background: var(--accent-wash);
}
.count {
  display: inline-block;
  min-width: 22px;
  margin-left: 6px;
  padding: 0 6px;
  border: 1px solid var(--ink);
  border-radius: 11px;
  font-size: 0.8125rem;
  font-weight: 700;
  text-align: center;
}
@media (pointer: coarse) {
  .pick,
  .handle,
  .step-handle {
    min-height: var(--tap);
  }
}
</style>
