<script setup lang="ts">
import {
  COVERAGES,
  type Coverage,
  coverageOf,
  type Criterion,
  isWorkedOut,
  type MethodSheet,
  ownName,
  type Skill,
  type Step,
  TRUNK_TYPES,
  UNIT_CODES,
} from '@clear-mark/core';
import { FAULT_WORDS, skillWords, UNIT_WORDS } from '@clear-mark/words';
import { computed } from 'vue';
import ChoiceField from '../../../shared/ChoiceField.vue';
import NumberField from '../../../shared/NumberField.vue';
import { useOwnNames } from '../../../shared/own-names.ts';
import BandFields from './BandFields.vue';
import { CRITERION_KIND_WORDS, put, withCoverage } from './draft-edit.model.ts';
import LevelsForm from './LevelsForm.vue';
import LossForm from './LossForm.vue';
import SourceField from '../../../shared/SourceField.vue';

/** Everything of one criterion: what is asked of every kind, and what its own kind needs. */
const props = defineProps<{ criterion: Criterion; step: Step; sheet: MethodSheet }>();
const emit = defineEmits<{
  typed: [criterion: Criterion];
  act: [criterion: Criterion];
}>();
const COVERAGE_CHOICES: Readonly<Record<Coverage, string>> = {
  required: 'of every piece',
  sampled: 'when it is seen',
  trainee: 'by the trainee',
};
const coverages = COVERAGES.map((value) => ({ value, label: COVERAGE_CHOICES[value] }));
const own = useOwnNames();
const skills = computed(() => own.skills([props.step.skill, props.criterion.skill ?? props.step.skill]));
const faults = Object.entries(FAULT_WORDS).map(([value, label]) => ({ value, label }));
const units = UNIT_CODES.map((value) => ({ value, label: UNIT_WORDS[value] || 'a plain number' }));
const typed = (more: object): void => emit('typed', { ...props.criterion, ...more } as Criterion);
const act = (more: object): void => emit('act', { ...props.criterion, ...more } as Criterion);
const others = computed(() =>
  props.sheet.steps.flatMap((s) => s.criteria.filter((c) => c.id !== props.criterion.id)),
);
const lengths = computed(() =>
  others.value
    .filter(
      (c) =>
        c.kind === 'measure' &&
        c.less === undefined &&
        'unit' in props.criterion &&
        c.unit === props.criterion.unit,
    )
    .map((c) => ({ value: c.id, label: c.label })),
);
const judged = computed(() =>
  others.value.filter((c) => c.kind !== 'call').map((c) => ({ value: c.id, label: c.label })),
);
const unit = computed(() => {
  const c = props.criterion;
  if (c.kind === 'timed') return 's';
  if (c.kind === 'count') return c.noun;
  return 'unit' in c ? UNIT_WORDS[c.unit] : '';
});
</script>

<template>
  <p class="soft small kind">{{ CRITERION_KIND_WORDS[criterion.kind] }}</p>
  <el-form label-position="top" size="large" @submit.prevent>
    <el-form-item label="What is scored">
      <el-input
        :model-value="criterion.label"
        data-test="criterion-label"
        aria-label="What is scored"
        maxlength="300"
        @input="(label: string) => typed({ label })"
      />
    </el-form-item>
    <div class="row fields">
      <NumberField
        label="Points"
        :max="1000"
        whole
        :model-value="criterion.points"
        @change="(points) => typed({ points: points })"
      />
      <ChoiceField
        label="Scored"
        :model-value="coverageOf(criterion)"
        :options="coverages"
        @change="(coverage) => emit('act', withCoverage(criterion, coverage))"
      />
      <ChoiceField
        label="Skill"
        :none="`as the step (${skillWords(step.skill)})`"
        :model-value="criterion.skill ?? ''"
        :options="skills"
        :further="ownName"
        @change="(skill: Skill | '') => emit('act', put(criterion, 'skill', skill))"
      />
    </div>
    <el-form-item>
      <el-checkbox
        :model-value="criterion.critical"
        :disabled="criterion.stop === true"
        @change="(on: string | number | boolean) => act({ critical: Boolean(on) })"
        >Critical: failed, the skill fails</el-checkbox
      >
      <el-checkbox
        :model-value="criterion.stop === true"
        @change="
          (on: string | number | boolean) =>
            emit(
              'act',
              put(
                { ...criterion, critical: Boolean(on) || criterion.critical },
                'stop',
                on ? true : undefined,
              ),
            )
        "
        >Stop: failed, the piece ends at once</el-checkbox
      >
    </el-form-item>

    <div v-if="criterion.kind === 'measure' || criterion.kind === 'readings'" class="field-gap">
      <ChoiceField
        label="Unit"
        :model-value="criterion.unit"
        :options="units"
        @change="(of) => act({ unit: of })"
      />
    </div>
    <el-form-item v-if="criterion.kind === 'count'" label="What is counted">
      <el-input
        :model-value="criterion.noun"
        aria-label="What is counted"
        maxlength="60"
        @input="(noun: string) => typed({ noun })"
      />
    </el-form-item>
    <BandFields
      v-if="'band' in criterion"
      :band="criterion.band"
      :unit="unit"
      :source="criterion.source"
      @change="(band) => typed({ band })"
    />
    <div v-if="criterion.kind === 'measure' && !isWorkedOut(criterion)" class="field-gap">
      <ChoiceField
        label="Less another length of the sheet"
        none="as it is measured"
        :model-value="criterion.less ?? ''"
        :options="lengths"
        @change="(less) => emit('act', put(criterion, 'less', less))"
      />
    </div>
    <NumberField
      v-if="criterion.kind === 'readings'"
      label="Fibers"
      :min="1"
      :max="144"
      whole
      :model-value="criterion.fibers ?? 1"
      :none="1"
      @change="(fibers) => typed({ fibers: fibers })"
    />
    <LevelsForm
      v-if="criterion.kind === 'grade'"
      :criterion="criterion"
      @change="(levels) => typed({ levels })"
    />
    <LossForm v-if="criterion.kind === 'loss'" :criterion="criterion" @change="(next) => emit('act', next)" />
    <div v-if="criterion.kind === 'map'" class="row fields">
      <NumberField
        label="Ports"
        :min="2"
        :max="144"
        whole
        :model-value="criterion.ports"
        :none="12"
        @change="(ports) => typed({ ports: ports })"
      />
      <ChoiceField
        label="Trunk"
        :model-value="criterion.trunk"
        :options="TRUNK_TYPES.map((value) => ({ value, label: `type ${value}` }))"
        @change="(trunk) => act({ trunk })"
      />
    </div>
    <div v-if="criterion.kind === 'call'" class="field-gap">
      <ChoiceField
        label="Held against"
        none="what the instructor says"
        :model-value="criterion.of ?? ''"
        :options="judged"
        @change="(of) => emit('act', put(criterion, 'of', of))"
      />
    </div>

    <el-form-item label="Source of the criterion">
      <SourceField :source="criterion.source" of="the criterion" @change="(source) => typed({ source })" />
    </el-form-item>
    <el-form-item label="Hint beside it">
      <el-input
        :model-value="criterion.hint ?? ''"
        aria-label="Hint"
        maxlength="500"
        @input="(hint: string) => emit('typed', put(criterion, 'hint', hint))"
      />
    </el-form-item>
    <el-form-item label="Faults offered when it fails">
      <el-select
        multiple
        filterable
        :model-value="[...(criterion.faults ?? [])]"
        aria-label="Faults"
        placeholder="none"
        @change="(codes: string[]) => emit('act', put(criterion, 'faults', codes))"
      >
        <el-option v-for="f in faults" :key="f.value" :value="f.value" :label="f.label" />
      </el-select>
    </el-form-item>
  </el-form>
</template>

<style scoped>
.kind {
  margin: 0 0 8px;
}
.fields {
  align-items: flex-end;
  flex-wrap: wrap;
  margin-bottom: 14px;
}
.fields :deep(.el-form-item) {
  margin-bottom: 0;
}
.short {
  width: 84px;
}
.field-gap {
  margin-bottom: 14px;
}
</style>
