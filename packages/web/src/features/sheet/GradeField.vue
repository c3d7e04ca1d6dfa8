<script setup lang="ts">
import type { Entry, EntryValue, GradeCriterion } from '@clear-mark/core';
import { VERDICT_WORDS } from '@clear-mark/words';
import { computed, ref } from 'vue';
import ScaleDrawing from '../../shared/ScaleDrawing.vue';
import { vFocus } from '../../shared/v-focus.ts';

const props = withDefaults(
  defineProps<{
    criterion: GradeCriterion;
    entry: Entry | null;
    locked: boolean;
    /** The level that a graded picture gives; another one is entered with a reason. */
    graded?: string | null;
    gradedBy?: string;
  }>(),
  { graded: null, gradedBy: 'Graded in Faces' },
);
const emit = defineEmits<{ value: [value: EntryValue, note: string | null] }>();
const measured = computed(() => props.criterion.levels.find((l) => l.id === props.graded) ?? null);
const overruling = ref<string | null>(null);
const reason = ref('');

function choose(level: string): void {
  if (props.locked) return;
  if (measured.value && level !== measured.value.id) {
    overruling.value = level;
    return;
  }
  enter(level, null);
}
function enter(level: string, note: string | null): void {
  overruling.value = null;
  reason.value = '';
  emit('value', { kind: 'grade', level }, note);
}
const chosen = computed(() => (props.entry?.value?.kind === 'grade' ? props.entry.value.level : null));
</script>

<template>
  <div
    class="levels"
    :style="{ '--levels': criterion.levels.length }"
    role="group"
    :aria-label="criterion.label"
  >
    <button
      v-for="(level, i) in criterion.levels"
      :key="level.id"
      class="level"
      :class="level.verdict"
      type="button"
      :disabled="locked && chosen !== level.id"
      :aria-pressed="chosen === level.id"
      @click="choose(level.id)"
    >
      <ScaleDrawing :name="level.drawing" />
      <span class="name">{{ level.label }}</span>
      <span class="small soft">{{ VERDICT_WORDS[level.verdict] }} · {{ i + 1 }}</span>
    </button>
    <p v-if="measured && !locked && chosen === null && overruling === null" class="graded">
      {{ gradedBy }}: <b>{{ measured.label }}</b>
      <el-button @click="enter(measured.id, null)">Take it</el-button>
    </p>
    <form
      v-if="overruling !== null"
      class="graded"
      @submit.prevent="reason.trim() !== '' && enter(overruling, reason.trim())"
    >
      <span>{{ gradedBy }}: <b>{{ measured?.label }}</b>. Why not?</span>
      <el-input v-model="reason" v-focus maxlength="500" aria-label="Why not as graded" />
      <el-button native-type="submit" :disabled="reason.trim() === ''">Overrule</el-button>
      <el-button @click="overruling = null">Cancel</el-button>
    </form>
  </div>
</template>

<style scoped>
.graded {
  grid-column: 1 / -1;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 10px;
}
.graded .el-input {
  flex: 1 1 200px;
}
.levels {
  grid-column: 1 / -1;
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(112px, 1fr));
  gap: 8px;
  padding: 0 0 8px 42px;
}
.level {
  display: grid;
  justify-items: center;
  gap: 2px;
  padding: 8px 4px;
  border: 1px solid var(--hair-strong);
  border-radius: var(--round);
  background: var(--sheet);
  cursor: pointer;
  min-height: 104px;
  align-content: start;
}
/* As many columns as levels: nothing moves when a reason is asked for under them. */
@media (min-width: 801px) {
  .levels {
    grid-template-columns: repeat(var(--levels), minmax(0, 1fr));
  }
}
.level:hover {
  border-color: var(--ink);
}
.level[aria-pressed='true'] {
  border: 2px solid var(--void);
  padding: 7px 3px;
}
.level.pass[aria-pressed='true'] {
  border-color: var(--pass);
  background: var(--pass-wash);
}
.level.marginal_pass[aria-pressed='true'],
.level.marginal_fail[aria-pressed='true'] {
  border-color: var(--marginal);
  background: var(--marginal-wash);
}
.level.fail[aria-pressed='true'] {
  border-color: var(--fail);
  background: var(--fail-wash);
}
.level:disabled {
  cursor: default;
  opacity: 0.55;
}
.name {
  font-weight: 700;
  text-align: center;
  line-height: 1.15;
}
@media (max-width: 800px) {
  .levels {
    padding-left: 0;
  }
}
</style>
