<script setup lang="ts">
/** A number under its label; what is left empty is `none`. */
withDefaults(
  defineProps<{
    modelValue: number;
    label: string;
    min?: number;
    max: number;
    whole?: boolean;
    none?: number;
  }>(),
  { min: 0, none: 0 },
);
defineEmits<{ change: [value: number] }>();
</script>

<template>
  <el-form-item :label="label">
    <el-input-number
      class="number"
      size="large"
      :controls="false"
      :min="min"
      :max="max"
      :precision="whole ? 0 : undefined"
      :model-value="modelValue"
      :aria-label="label"
      @change="(n: number | undefined) => $emit('change', n ?? none)"
    />
  </el-form-item>
</template>

<style scoped>
.number {
  width: 104px;
}
</style>
