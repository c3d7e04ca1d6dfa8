<script setup lang="ts">
import { computed, useId } from 'vue';
import { dayOf, dayText, rangesOf } from './day-range.model.ts';

/** The days from one to another, both counted in; either both or neither. Days like `2026-03-09`, '' for none. */
const props = defineProps<{
  label: string;
  from: string;
  to: string;
  /** The class's day, and its course, for the ranges that are offered. */
  today: string;
  course: { readonly from: string; readonly to: string } | null;
}>();
const emit = defineEmits<{ change: [range: { from: string; to: string }] }>();
const id = useId();
const value = computed(() => {
  if (props.from === '' && props.to === '') return null;
  const from = props.from || (props.course?.from ?? props.to);
  const to = props.to || props.today;
  return [from, to] as [string, string];
});
const shortcuts = computed(() =>
  rangesOf(props.today, props.course).map((r) => ({
    text: r.label,
    value: (): [Date, Date] => [dayOf(r.from), dayOf(r.to)],
  })),
);
function choose(range: [string, string] | null): void {
  emit('change', range ? { from: range[0], to: range[1] } : { from: '', to: '' });
}
</script>

<template>
  <div class="field">
    <label :for="id" class="soft">{{ label }}</label>
    <el-date-picker
      :id="[id, `${id}-to`]"
      class="days"
      type="daterange"
      size="large"
      value-format="YYYY-MM-DD"
      unlink-panels
      range-separator="to"
      start-placeholder="first day"
      end-placeholder="last day"
      :aria-label="label"
      :model-value="value"
      :default-value="dayOf(today)"
      :shortcuts="shortcuts"
      :title="value ? `${dayText(value[0])} to ${dayText(value[1])}` : undefined"
      @update:model-value="choose"
    />
  </div>
</template>

<style scoped>
.field :deep(.el-date-editor) {
  --el-date-editor-daterange-width: 290px;
}
</style>
