<script setup lang="ts" generic="V extends string | number">
import { computed, ref, useId } from 'vue';

/**
 * One of several. A long list can be searched by typing. The label stands above it unless it is said to be `bare`:
 * then it is read out alone. `none` are the words of the choice that is no choice, which has the value ''.
 */
const props = defineProps<{
  modelValue: V | null;
  label: string;
  options: readonly { readonly value: V; readonly label: string }[];
  none?: string;
  bare?: boolean;
  /** The label stands before it, in a row of other acts. */
  inline?: boolean;
  disabled?: boolean;
  /** Another one than those of the list can be typed: its value, or null where it is none. */
  further?: (typed: string) => V | null;
}>();
const emit = defineEmits<{ 'update:modelValue': [value: V]; change: [value: V] }>();
defineOptions({ inheritAttrs: false });
/** From this many on a list is searched rather than read. */
const MANY = 10;
const id = useId();
const all = computed(() =>
  props.none === undefined ? props.options : [{ value: '' as V, label: props.none }, ...props.options],
);
/** As wide as its longest choice, so that nothing beside it moves when another is chosen. */
const widest = computed(() => Math.max(4, ...all.value.map((o) => o.label.length)));
const refused = ref('');
function choose(given: V): void {
  const value = all.value.some((o) => o.value === given) ? given : (props.further?.(String(given)) ?? null);
  refused.value = value === null ? 'Up to 40 letters, digits, spaces and hyphens.' : '';
  if (value === null) return;
  emit('update:modelValue', value);
  emit('change', value);
}
</script>

<template>
  <div :class="bare ? 'bare' : inline ? 'inline' : 'field'">
    <label v-if="!bare" :for="id" class="soft">{{ label }}</label>
    <el-select
      :id="id"
      class="choice"
      :style="{ '--choice-width': `calc(${Math.min(widest, 40)}ch + 60px)` }"
      size="large"
      v-bind="$attrs"
      :model-value="modelValue"
      :aria-label="bare ? label : undefined"
      :filterable="all.length >= MANY || further !== undefined"
      :allow-create="further !== undefined"
      default-first-option
      :disabled="disabled"
      :empty-values="[null, undefined]"
      no-match-text="Nothing of that name"
      no-data-text="Nothing to choose from yet"
      @change="choose"
    >
      <el-option v-for="o in all" :key="o.value" :value="o.value" :label="o.label" />
    </el-select>
    <p v-if="refused" class="small notice bad" role="alert">{{ refused }}</p>
  </div>
</template>

<style scoped>
.bare,
.field {
  max-width: 100%;
  min-width: 0;
}
.inline {
  display: flex;
  align-items: center;
  gap: var(--gap);
}
.choice {
  width: var(--choice-width);
  max-width: 100%;
}
</style>
