<script setup lang="ts">
import {
  DIRECTIONS,
  FIBER_CLASSES,
  fiberMode,
  type LossCriterion,
  type LossRules,
  REFERENCE_METHODS,
  withLossTable,
} from '@clear-mark/core';
import { lossRulesFor } from '@clear-mark/methods/loss';
import { DIRECTION_WORDS, REFERENCE_WORDS } from '@clear-mark/words';
import { computed } from 'vue';
import { ROUTES } from '../../../api/client.ts';
import { useReply } from '../../../api/queries.ts';
import AllowanceField from '../../../shared/AllowanceField.vue';
import ChoiceField from '../../../shared/ChoiceField.vue';
import NumberField from '../../../shared/NumberField.vue';
import { put } from './draft-edit.model.ts';
import { lossTables } from '../../../shared/school-tables.ts';

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
const rules = (more: Partial<LossRules>): void =>
  emit('change', { ...props.criterion, rules: { ...props.criterion.rules, ...more } });

const { found } = useReply(ROUTES.schoolTables, () => ({}));
/** Tables of the school for this kind of fiber. */
const tables = computed(() => lossTables(found.value, fiberMode(props.criterion.link.fiberClass)));
function take(id: string): void {
  const table = tables.value.find((t) => t.id === id);
  if (!table) return;
  const next = withLossTable(props.criterion.rules, table.content);
  emit('change', { ...props.criterion, rules: next });
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
    <NumberField
      label="Length, m"
      :max="100000"
      :model-value="criterion.link.lengthM"
      @change="(lengthM) => link({ lengthM })"
    />
    <NumberField
      v-for="c in COUNTS"
      :key="c.field"
      :label="c.label"
      :max="100"
      whole
      :model-value="criterion.link[c.field]"
      @change="(n) => link({ [c.field]: n })"
    />
    <NumberField
      label="Fibers in the connector"
      :min="1"
      :max="144"
      :none="1"
      whole
      :model-value="criterion.fibers ?? 1"
      @change="(n) => emit('change', put(criterion, 'fibers', n > 1 ? n : undefined))"
    />
  </div>
  <div v-if="tables.length > 0" class="row fields">
    <ChoiceField
      label="Allowances of a table of the school"
      none="choose one to take its figures"
      :model-value="''"
      :options="tables.map((t) => ({ value: t.id, label: `${t.title}, version ${t.version}` }))"
      data-test="take-table"
      @change="take"
    />
  </div>
  <AllowanceField
    v-for="{ key, label } in allowed"
    :key="key"
    :label="label"
    :value="criterion.rules[key]"
    @change="(db) => rules({ [key]: db })"
  />
  <AllowanceField
    v-for="nm in criterion.wavelengthsNm.filter((nm) => criterion.rules.fiberDbPerKm[nm])"
    :key="nm"
    :label="`The fiber may lose at ${nm} nm`"
    unit="dB/km"
    :value="criterion.rules.fiberDbPerKm[nm]!"
    @change="(db) => rules({ fiberDbPerKm: { ...criterion.rules.fiberDbPerKm, [nm]: db } })"
  />
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
</style>
