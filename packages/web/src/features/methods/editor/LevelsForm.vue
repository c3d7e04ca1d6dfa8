<script setup lang="ts">
import type { GradeCriterion, GradeLevel } from '@clear-mark/core';
import { DRAWINGS } from '@clear-mark/methods/drawings';
import { VERDICT_WORDS } from '@clear-mark/words';
import ChoiceField from '../../../shared/ChoiceField.vue';
import ScaleDrawing from '../../../shared/ScaleDrawing.vue';
import { put, spliced } from './draft-edit.model.ts';

/** The levels of a described scale, the best first: their words, what each is worth, and a drawing where there is one. */
const props = defineProps<{ criterion: GradeCriterion }>();
const emit = defineEmits<{ change: [levels: readonly GradeLevel[]] }>();
const VERDICTS = ['pass', 'marginal_pass', 'marginal_fail', 'fail'] as const;
const verdicts = VERDICTS.map((value) => ({ value, label: VERDICT_WORDS[value] }));
const drawings = Object.keys(DRAWINGS).map((value) => ({ value, label: value.replaceAll('-', ' ') }));
const set = (at: number, level: GradeLevel): void =>
  emit('change', spliced(props.criterion.levels, at, 1, level));
function add(): void {
  const level: GradeLevel = {
    id: `level-${crypto.randomUUID().slice(0, 8)}`,
    label: '',
    verdict: 'fail',
    points: 0,
  };
  emit('change', [...props.criterion.levels, level]);
}
</script>

<template>
  <fieldset class="levels">
    <legend>Levels, the best first</legend>
    <div v-for="(level, i) in criterion.levels" :key="level.id" class="level">
      <ScaleDrawing v-if="level.drawing" :name="level.drawing" />
      <el-input
        size="large"
        :model-value="level.label"
        :aria-label="`Level ${i + 1}`"
        placeholder="what is seen"
        maxlength="200"
        @input="(label: string) => set(i, { ...level, label })"
      />
      <div class="row">
        <ChoiceField
          bare
          :label="`Level ${i + 1} is`"
          :model-value="level.verdict"
          :options="verdicts"
          @change="(verdict) => set(i, { ...level, verdict })"
        />
        <el-input-number
          size="large"
          :model-value="level.points"
          :aria-label="`Points of level ${i + 1}`"
          :min="0"
          :max="criterion.points"
          :controls="false"
          @change="(points: number | undefined) => set(i, { ...level, points: points ?? 0 })"
        />
        <span class="soft small">points</span>
        <ChoiceField
          bare
          :label="`Drawing of level ${i + 1}`"
          none="no drawing"
          :model-value="level.drawing ?? ''"
          :options="drawings"
          @change="(drawing) => set(i, put(level, 'drawing', drawing))"
        />
        <el-button
          size="large"
          text
          :disabled="criterion.levels.length <= 2"
          :aria-label="`Remove level ${i + 1}`"
          @click="emit('change', spliced(criterion.levels, i, 1))"
          >Remove</el-button
        >
      </div>
    </div>
    <el-button size="large" @click="add">Add a level</el-button>
  </fieldset>
</template>

<style scoped>
.levels {
  margin: 0 0 16px;
  padding: 8px 0 0;
  border: 0;
  border-top: 1px solid var(--hair);
}
legend {
  padding: 0 8px 0 0;
  color: var(--ink-soft);
}
.level {
  padding: 6px 0;
  border-bottom: 1px solid var(--hair);
}
.level .row {
  margin-top: 4px;
}
.level :deep(.el-input-number) {
  width: 76px;
}
.levels > .el-button {
  margin-top: 8px;
}
</style>
