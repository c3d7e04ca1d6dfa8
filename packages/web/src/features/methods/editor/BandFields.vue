<script setup lang="ts">
import type { Band, Limit, Source } from '@clear-mark/core';
import ChoiceField from '../../../shared/ChoiceField.vue';
import { limitOf, put } from './draft-edit.model.ts';
import SourceField from '../../../shared/SourceField.vue';

/** The limits of a criterion, each with its source. One that is left empty is no limit: the value may go that way freely. */
const props = defineProps<{ band: Band; unit: string; source: Source }>();
const emit = defineEmits<{ change: [band: Band] }>();
const ENDS = [
  { end: 'lower', label: 'Not under', least: 'at least', over: 'more than' },
  { end: 'upper', label: 'Not over', least: 'at most', over: 'less than' },
] as const;
type End = (typeof ENDS)[number]['end'];
const set = (end: End, limit: Limit | undefined): void => emit('change', put(props.band, end, limit));
</script>

<template>
  <div v-for="{ end, label, least, over } in ENDS" :key="end" class="limit">
    <el-form-item :label="unit ? `${label}, ${unit}` : label">
      <div class="line">
        <el-input
          class="number"
          size="large"
          inputmode="decimal"
          :data-test="`limit-${end}`"
          :model-value="band[end]?.value ?? ''"
          :aria-label="label"
          placeholder="no limit"
          maxlength="32"
          @input="(text: string) => set(end, limitOf(band[end], text, source))"
        />
        <ChoiceField
          v-if="band[end]"
          bare
          :label="`${label}: the limit itself`"
          :model-value="band[end]!.exclusive ? 'over' : 'least'"
          :options="[
            { value: 'least', label: least },
            { value: 'over', label: over },
          ]"
          @change="(how) => set(end, put(band[end]!, 'exclusive', how === 'over' ? true : undefined))"
        />
      </div>
      <SourceField
        v-if="band[end]"
        :source="band[end]!.source"
        :of="label"
        @change="(source) => set(end, { ...band[end]!, source })"
      />
    </el-form-item>
  </div>
  <el-form-item :label="unit ? `Aim, ${unit}` : 'Aim'">
    <el-input
      class="number"
      size="large"
      inputmode="decimal"
      :model-value="band.target ?? ''"
      aria-label="Aim"
      placeholder="none"
      maxlength="32"
      @input="(text: string) => emit('change', put(band, 'target', text.trim().replace(',', '.')))"
    />
  </el-form-item>
</template>

<style scoped>
.line {
  display: flex;
  gap: 8px;
  width: 100%;
  margin-bottom: 4px;
}
.number {
  width: 130px;
}
</style>
