<script setup lang="ts">
import { useId } from 'vue';

/** One day like `2026-03-09`, picked from a calendar or typed; null where there is none. */
defineProps<{ modelValue: string | null; label: string; clearable?: boolean }>();
const emit = defineEmits<{ 'update:modelValue': [day: string | null] }>();
const id = useId();
</script>

<template>
  <div class="field">
    <label :for="id" class="soft">{{ label }}</label>
    <el-date-picker
      :id="id"
      type="date"
      size="large"
      value-format="YYYY-MM-DD"
      placeholder="no day"
      :model-value="modelValue"
      :clearable="clearable"
      @update:model-value="(day: string | null) => emit('update:modelValue', day || null)"
    />
  </div>
</template>
