<script setup lang="ts">
import { type MethodSheet, ownName, type Skill } from '@clear-mark/core';
import type { SchoolTableContent } from '@clear-mark/contract';
import { computed } from 'vue';
import ChoiceField from '../../../shared/ChoiceField.vue';
import NumberField from '../../../shared/NumberField.vue';
import { useOwnNames } from '../../../shared/own-names.ts';
import SourceField from '../../../shared/SourceField.vue';
import { criteriaForDrill } from './table-edit.model.ts';

type Drill = Extract<SchoolTableContent, { kind: 'drill' }>['content'];
/** What is practised, how, how long a piece of it takes and what it uses up. */
const props = defineProps<{ drill: Drill; sheets: readonly MethodSheet[] }>();
const emit = defineEmits<{ change: [drill: Drill] }>();
const own = useOwnNames();
const set = (more: Partial<Drill>): void => emit('change', { ...props.drill, ...more });
const criteria = computed(() => {
  const known = criteriaForDrill(props.sheets, props.drill.skill);
  const { criterion } = props.drill;
  return criterion === null || known.some((c) => c.value === criterion)
    ? known
    : [{ value: criterion, label: criterion }, ...known];
});
type Used = Drill['consumables'][number];
const used = (at: number, more: Partial<Used>): void =>
  set({ consumables: props.drill.consumables.map((c, i) => (i === at ? { ...c, ...more } : c)) });
</script>

<template>
  <div class="row fields">
    <ChoiceField
      label="Skill"
      :model-value="drill.skill"
      :options="own.skills([drill.skill])"
      :further="ownName"
      @change="(skill: Skill) => set({ skill, criterion: null })"
    />
    <ChoiceField
      label="For"
      none="the skill as a whole"
      :model-value="drill.criterion ?? ''"
      :options="criteria"
      @change="(criterion) => set({ criterion: criterion === '' ? null : criterion })"
    />
    <NumberField
      label="Minutes a piece"
      :min="0.5"
      :max="600"
      :none="5"
      :model-value="drill.minutesEach"
      @change="(minutesEach) => set({ minutesEach })"
    />
  </div>
  <el-form-item label="How it is done">
    <el-input
      type="textarea"
      :autosize="{ minRows: 2 }"
      :model-value="drill.how"
      aria-label="How it is done"
      maxlength="1000"
      @input="(how: string) => set({ how })"
    />
  </el-form-item>
  <el-form-item label="What a piece uses up">
    <div class="used">
      <div v-for="(c, i) in drill.consumables" :key="i" class="row">
        <el-input
          class="name"
          :model-value="c.name"
          :aria-label="`Name of ${i + 1}`"
          placeholder="practice cord"
          maxlength="80"
          @input="(name: string) => used(i, { name })"
        />
        <el-input-number
          class="amount"
          :controls="false"
          :min="0"
          :max="1000"
          :model-value="c.each"
          :aria-label="`Amount of ${i + 1}`"
          @change="(each: number | undefined) => used(i, { each: each ?? 0 })"
        />
        <el-input
          class="unit"
          :model-value="c.unit"
          :aria-label="`Unit of ${i + 1}`"
          placeholder="pieces"
          maxlength="12"
          @input="(unit: string) => used(i, { unit })"
        />
        <el-button
          size="large"
          :aria-label="`Remove ${c.name || i + 1}`"
          @click="set({ consumables: drill.consumables.filter((_, j) => j !== i) })"
          >Remove</el-button
        >
      </div>
      <el-button
        size="large"
        @click="set({ consumables: [...drill.consumables, { name: '', each: 1, unit: '' }] })"
        >Add a consumable</el-button
      >
    </div>
  </el-form-item>
  <el-form-item label="Source">
    <SourceField :source="drill.source" of="the drill" @change="(source) => set({ source })" />
  </el-form-item>
</template>

<style scoped>
.fields {
  align-items: flex-end;
  flex-wrap: wrap;
  margin-bottom: 10px;
}
.fields :deep(.el-form-item) {
  margin-bottom: 0;
}
.used {
  display: grid;
  gap: 6px;
  width: 100%;
  justify-items: start;
}
.name {
  width: 240px;
}
.amount,
.unit {
  width: 90px;
}
</style>
