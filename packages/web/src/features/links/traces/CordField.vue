<script setup lang="ts">
/** The length of a cord in metres; null where nobody said it. */
defineProps<{ label: string; modelValue: number | null }>();
defineEmits<{ 'update:modelValue': [metres: number | null] }>();
const LONGEST_M = 100_000;
</script>

<template>
  <label class="field"
    ><span>{{ label }}, m</span
    ><el-input-number
      size="large"
      :min="0"
      :max="LONGEST_M"
      :precision="1"
      :controls="false"
      :model-value="modelValue ?? undefined"
      @change="(m: number | undefined) => $emit('update:modelValue', m ?? null)"
  /></label>
</template>

<style scoped>
.field {
  display: grid;
  gap: 2px;
}
.field :deep(.el-input-number) {
  width: 100%;
}
</style>
