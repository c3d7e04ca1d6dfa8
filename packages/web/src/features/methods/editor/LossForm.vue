<script setup lang="ts">
import {
  DIRECTIONS,
  FIBER_CLASSES,
  type LossCriterion,
  REFERENCE_METHODS,
  type SourcedDb,
} from '@clear-mark/core';
import { lossRulesFor } from '@clear-mark/methods/loss';
import { DIRECTION_WORDS, REFERENCE_WORDS } from '@clear-mark/words';
import { computed } from 'vue';
import ChoiceField from '../../../shared/ChoiceField.vue';
import { put } from './draft-edit.model.ts';
import SourceField from './SourceField.vue';

/** What a loss test is made on, at which wavelengths, and what is allowed for each part of the link. */
const props = defineProps<{ criterion: LossCriterion }>();
const emit = defineEmits<{ change: [criterion: LossCriterion] }>();
const WAVELENGTHS = [850, 1300, 1310, 1490, 1550, 1625];
const COUNTS = [
  { field: 'matedPairs', label: 'Mated pairs' },
  { field: 'splices', label: 'Splices' },
] as const;
const link = (more: Partial<LossCriterion['link']>): void =>
  emit('change', { ...props.criterion, link: { ...props.criterion.link, ...more } });
/** Another fiber or reference brings its own table of allowances. */
function base(more: Partial<Pick<LossCriterion['link'], 'fiberClass' | 'referenceMethod'>>): void {
  const next = { ...props.criterion.link, ...more };
  const rules = lossRulesFor(next.fiberClass, next.referenceMethod);
  const wavelengthsNm = props.criterion.wavelengthsNm.filter((nm) => rules.fiberDbPerKm[nm]);
  const known = Object.keys(rules.fiberDbPerKm).map(Number);
  emit('change', {
    ...props.criterion,
    link: next,
    rules,
    wavelengthsNm: wavelengthsNm.length > 0 ? wavelengthsNm : known,
  });
}
const allowed = computed(() => [
  { key: 'connectionDb' as const, label: 'A connection may lose' },
  { key: 'spliceDb' as const, label: 'A splice may lose' },
]);
const known = computed(() =>
  WAVELENGTHS.filter((nm) => props.criterion.rules.fiberDbPerKm[nm]).map((nm) => ({ value: nm })),
);
function setDb(key: 'connectionDb' | 'spliceDb', db: SourcedDb): void {
  emit('change', { ...props.criterion, rules: { ...props.criterion.rules, [key]: db } });
}
</script>

<template>
  <el-form-item label="Wavelengths, nm">
    <el-select
      size="large"
      multiple
      :model-value="[...criterion.wavelengthsNm]"
      aria-label="Wavelengths"
      @change="
        (nm: number[]) => emit('change', { ...criterion, wavelengthsNm: [...nm].sort((a, b) => a - b) })
      "
    >
      <el-option v-for="o in known" :key="o.value" :value="o.value" :label="`${o.value}`" />
    </el-select>
  </el-form-item>
  <div class="row fields">
    <ChoiceField
      label="Fiber"
      :model-value="criterion.link.fiberClass"
      :options="FIBER_CLASSES.map((value) => ({ value, label: value }))"
      @change="(fiberClass) => base({ fiberClass })"
    />
    <ChoiceField
      label="Reference"
      :model-value="criterion.link.referenceMethod"
      :options="REFERENCE_METHODS.map((value) => ({ value, label: REFERENCE_WORDS[value] }))"
      @change="(referenceMethod) => base({ referenceMethod })"
    />
  </div>
  <div class="row fields">
    <el-form-item label="Length, m">
      <el-input-number
        size="large"
        :controls="false"
        :min="0"
        :max="100000"
        :model-value="criterion.link.lengthM"
        aria-label="Length, m"
        @change="(m: number | undefined) => link({ lengthM: m ?? 0 })"
      />
    </el-form-item>
    <el-form-item v-for="c in COUNTS" :key="c.field" :label="c.label">
      <el-input-number
        size="large"
        :controls="false"
        :min="0"
        :max="100"
        :precision="0"
        :model-value="criterion.link[c.field]"
        :aria-label="c.label"
        @change="(n: number | undefined) => link({ [c.field]: n ?? 0 })"
      />
    </el-form-item>
    <el-form-item label="Fibers in the connector">
      <el-input-number
        size="large"
        :controls="false"
        :min="1"
        :max="144"
        :precision="0"
        :model-value="criterion.fibers ?? 1"
        aria-label="Fibers in the connector"
        @change="
          (n: number | undefined) => emit('change', put(criterion, 'fibers', (n ?? 1) > 1 ? n : undefined))
        "
      />
    </el-form-item>
  </div>
  <el-form-item v-for="{ key, label } in allowed" :key="key" :label="`${label}, dB`">
    <el-input-number
      size="large"
      class="db"
      :controls="false"
      :min="0"
      :max="20"
      :model-value="criterion.rules[key].db"
      :aria-label="label"
      @change="(db: number | undefined) => setDb(key, { ...criterion.rules[key], db: db ?? 0 })"
    />
    <SourceField
      :source="criterion.rules[key].source"
      :of="label"
      @change="(source) => setDb(key, { ...criterion.rules[key], source })"
    />
  </el-form-item>
  <el-form-item label="Directions">
    <el-select
      size="large"
      multiple
      :model-value="[...(criterion.directions ?? [])]"
      aria-label="Directions"
      placeholder="one, as it is plugged"
      @change="
        (ways: LossCriterion['directions'] & object) => emit('change', put(criterion, 'directions', ways))
      "
    >
      <el-option v-for="d in DIRECTIONS" :key="d" :value="d" :label="DIRECTION_WORDS[d]" />
    </el-select>
  </el-form-item>
</template>

<style scoped>
.fields {
  align-items: flex-end;
  flex-wrap: wrap;
  margin-bottom: 8px;
}
.fields :deep(.el-input-number) {
  width: 96px;
}
.db {
  width: 110px;
  margin-bottom: 4px;
}
</style>
