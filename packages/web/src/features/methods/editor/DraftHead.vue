<script setup lang="ts">
import type { DraftProblem } from '@clear-mark/core';
import { errorWords } from '@clear-mark/words';
import { computed } from 'vue';
import type { DraftState, SaveState } from './use-draft.ts';

/** The name of a draft, what is saved of it, what is left to do, and the acts on the whole of it. */
const props = defineProps<{ draft: DraftState; classId: string; busy: boolean }>();
const emit = defineEmits<{ publish: []; discard: []; jump: [problem: DraftProblem] }>();
const SAVED_WORDS: Readonly<Record<SaveState, string>> = {
  saved: 'Saved',
  unsaved: 'Not saved yet',
  saving: 'Saving',
  failed: 'Not saved',
};
const SHOWN = 6;
const sheet = computed(() => props.draft.sheet.value!);
const basedOn = computed(() => props.draft.draft.value?.basedOn ?? null);
const left = computed(() => props.draft.left.value.length);
const problems = computed(() => props.draft.problems.value);
const stateWords = computed(() =>
  left.value === 0
    ? 'Nothing is missing: it can be published.'
    : `${left.value} to do before it can be published.`,
);

function labelOf({ step, criterion }: DraftProblem): string {
  const home = sheet.value.steps.find((s) => s.id === step);
  const c = home?.criteria.find((x) => x.id === criterion);
  return c ? c.label || 'a criterion without a name' : (home?.title ?? 'The method');
}
</script>

<template>
  <div class="row spread">
    <h1>{{ sheet.title || 'A method without a name' }}</h1>
    <div class="row acts">
      <span class="soft" role="status" data-test="save-state">{{ SAVED_WORDS[draft.state.value] }}</span>
      <el-button size="large" :disabled="!draft.canUndo.value" @click="draft.undo()">Undo</el-button>
      <el-button size="large" :disabled="!draft.canRedo.value" @click="draft.redo()">Redo</el-button>
      <RouterLink
        v-if="basedOn"
        class="act"
        :to="{
          name: 'compare-methods',
          params: { classId, versionId: basedOn },
          query: { draft: draft.draft.value!.id },
        }"
        >Compare</RouterLink
      >
      <el-button size="large" @click="emit('discard')">Discard</el-button>
      <el-button size="large" type="primary" :disabled="left > 0 || busy" @click="emit('publish')"
        >Publish</el-button
      >
    </div>
  </div>
  <p class="soft">Draft of version {{ draft.draft.value!.version }}. {{ stateWords }}</p>
  <ul v-if="problems.length > 0" class="problems" aria-label="To do before it can be published">
    <li v-for="(p, i) in problems.slice(0, SHOWN)" :key="i">
      <el-button class="jump" size="large" @click="emit('jump', p)">
        <span><b>{{ p.blocks ? labelOf(p) : 'Advice' }}</b> {{ errorWords(p.code, p.params) }}</span>
      </el-button>
    </li>
    <li v-if="problems.length > SHOWN" class="soft small more">
      and {{ problems.length - SHOWN }} more, counted beside their steps
    </li>
  </ul>
</template>

<style scoped>
.acts {
  gap: 8px;
}
.acts :deep(.el-button) {
  margin: 0;
}
.problems {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 8px;
  margin: 8px 0;
  padding: 0;
  list-style: none;
}
.jump {
  height: auto;
  min-height: 36px;
  padding: 4px 10px;
  white-space: normal;
  text-align: left;
}
.more {
  align-self: center;
}
@media (pointer: coarse) {
  .jump {
    min-height: var(--tap);
  }
}
</style>
