<script setup lang="ts">
import { ownName, PLACES, type Step } from '@clear-mark/core';
import { STEP_DRAWINGS } from '@clear-mark/methods/drawings';
import { computed } from 'vue';
import ChoiceField from '../../../shared/ChoiceField.vue';
import { useOwnNames } from '../../../shared/own-names.ts';
import CautionsForm from './CautionsForm.vue';
import { put } from './draft-edit.model.ts';

/** One step: what it is called, whose skill it shows, where on the piece, and how it is done. */
const props = defineProps<{ step: Step }>();
const emit = defineEmits<{ typed: [step: Step]; act: [step: Step] }>();
const own = useOwnNames();
const skills = computed(() => own.skills([props.step.skill]));
const places = PLACES.map((value) => ({ value, label: value }));
const drawings = Object.entries(STEP_DRAWINGS).map(([value, d]) => ({ value, label: d.says }));
const typed = (more: Partial<Step>): void => emit('typed', { ...props.step, ...more });
</script>

<template>
  <el-form label-position="top" size="large" @submit.prevent>
    <el-form-item label="Name of the step">
      <el-input
        :model-value="step.title"
        data-test="step-title"
        aria-label="Name of the step"
        maxlength="200"
        @input="(title: string) => typed({ title })"
      />
    </el-form-item>
    <div class="row fields">
      <ChoiceField
        label="Skill"
        :model-value="step.skill"
        :options="skills"
        :further="ownName"
        @change="(skill) => emit('act', { ...step, skill })"
      />
      <ChoiceField
        label="Where on the piece"
        :model-value="step.place"
        :options="places"
        @change="(place) => emit('act', { ...step, place })"
      />
    </div>
    <el-form-item label="How it is done">
      <el-input
        type="textarea"
        :autosize="{ minRows: 3 }"
        :model-value="step.how"
        aria-label="How it is done"
        maxlength="4000"
        @input="(how: string) => typed({ how })"
      />
    </el-form-item>
    <div class="gap">
      <ChoiceField
        label="Drawing"
        none="none"
        :model-value="step.drawing ?? ''"
        :options="drawings"
        @change="(drawing) => emit('act', put(step, 'drawing', drawing))"
      />
    </div>
    <CautionsForm
      :cautions="step.cautions ?? []"
      @change="(cautions) => emit('typed', put(step, 'cautions', cautions))"
    />
  </el-form>
</template>

<style scoped>
.fields,
.gap {
  margin-bottom: 14px;
}
.fields {
  align-items: flex-end;
  flex-wrap: wrap;
}
</style>
