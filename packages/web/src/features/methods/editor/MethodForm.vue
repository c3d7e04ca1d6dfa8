<script setup lang="ts">
import {
  FIBER_CLASSES,
  isThingKind,
  type MethodSheet,
  ownName,
  PIECE_KINDS,
  type StripGeometry,
} from '@clear-mark/core';
import { computed } from 'vue';
import ChoiceField from '../../../shared/ChoiceField.vue';
import NumberField from '../../../shared/NumberField.vue';
import PracticeForm from './PracticeForm.vue';
import { useOwnNames } from '../../../shared/own-names.ts';
import CautionsForm from './CautionsForm.vue';
import { put } from './draft-edit.model.ts';
import SourceField from '../../../shared/SourceField.vue';

/** What a method says as a whole: its name, the piece, the lengths of the strip, its pass mark, cautions, equipment. */
const props = defineProps<{ sheet: MethodSheet }>();
const emit = defineEmits<{ typed: [sheet: MethodSheet]; act: [sheet: MethodSheet] }>();
const LENGTHS = [
  { field: 'jacketMm', label: 'Jacket off, mm' },
  { field: 'bufferMm', label: 'Buffer off, mm' },
  { field: 'cleaveMm', label: 'Cleaved at, mm' },
] as const;
const own = useOwnNames();
const things = computed(() => own.things(props.sheet.thingsUsed));
/** A kind that was typed is kept as the school's own; what is no name is left out. */
const equipment = (chosen: readonly string[]): void =>
  act({ thingsUsed: chosen.flatMap((name) => (isThingKind(name) ? name : (ownName(name) ?? []))) });
const typed = (more: Partial<MethodSheet>): void => emit('typed', { ...props.sheet, ...more });
const act = (more: Partial<MethodSheet>): void => emit('act', { ...props.sheet, ...more });
const NONE: StripGeometry = { jacketMm: 0, bufferMm: 0, cleaveMm: 0 };
function length(field: keyof StripGeometry, mm: number): void {
  const strip = { ...(props.sheet.strip ?? NONE), [field]: mm };
  const any = Object.values(strip).some((v) => v > 0);
  emit('typed', put(props.sheet, 'strip', any ? strip : undefined));
}
</script>

<template>
  <el-form label-position="top" size="large" @submit.prevent>
    <el-form-item label="Name of the method">
      <el-input
        :model-value="sheet.title"
        data-test="method-title"
        aria-label="Name of the method"
        maxlength="120"
        @input="(title: string) => typed({ title })"
      />
    </el-form-item>
    <el-form-item label="What it is, in a sentence">
      <el-input
        type="textarea"
        autosize
        :model-value="sheet.summary"
        data-test="method-summary"
        aria-label="What it is, in a sentence"
        maxlength="1000"
        @input="(summary: string) => typed({ summary })"
      />
    </el-form-item>
    <div class="row fields">
      <ChoiceField
        label="Piece"
        :model-value="sheet.pieceKind"
        :options="PIECE_KINDS.map((value) => ({ value, label: value }))"
        @change="(pieceKind) => act({ pieceKind })"
      />
      <ChoiceField
        label="Fiber"
        :model-value="sheet.fiberClass"
        :options="FIBER_CLASSES.map((value) => ({ value, label: value }))"
        @change="(fiberClass) => act({ fiberClass })"
      />
      <NumberField
        label="Pass mark, %"
        :min="1"
        :max="100"
        :none="80"
        :model-value="sheet.passMarkPercent"
        @change="(passMarkPercent) => typed({ passMarkPercent })"
      />
    </div>
    <el-form-item label="Source of the pass mark">
      <SourceField
        :source="sheet.passMarkSource"
        of="the pass mark"
        @change="(passMarkSource) => typed({ passMarkSource })"
      />
    </el-form-item>
    <div class="row fields">
      <NumberField
        v-for="l in LENGTHS"
        :key="l.field"
        :label="l.label"
        :max="5000"
        :model-value="sheet.strip?.[l.field] ?? 0"
        @change="(mm) => length(l.field, mm)"
      />
    </div>
    <CautionsForm :cautions="sheet.cautions" @change="(cautions) => typed({ cautions })" />
    <PracticeForm :sheet="sheet" @typed="(now) => emit('typed', now)" @act="(now) => emit('act', now)" />
    <el-form-item label="Equipment that is chosen for a bench">
      <el-select
        multiple
        :model-value="[...sheet.thingsUsed]"
        aria-label="Equipment"
        placeholder="none"
        filterable
        allow-create
        default-first-option
        @change="equipment"
      >
        <el-option v-for="t in things" :key="t.value" :value="t.value" :label="t.label" />
      </el-select>
    </el-form-item>
  </el-form>
</template>

<style scoped>
.fields {
  align-items: flex-end;
  flex-wrap: wrap;
  margin-bottom: 14px;
}
.fields :deep(.el-form-item) {
  margin-bottom: 0;
}
</style>
