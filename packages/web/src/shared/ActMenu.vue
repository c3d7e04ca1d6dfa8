<script setup lang="ts" generic="V extends string">
/** A button that opens a short list of acts; each is done as soon as it is chosen. */
defineProps<{
  label: string;
  /** What is read out, where the button's own words do not say what it acts on. */
  name?: string;
  acts: readonly { readonly value: V; readonly label: string }[];
  disabled?: boolean;
}>();
const emit = defineEmits<{ choose: [value: V] }>();
</script>

<template>
  <el-dropdown trigger="click" :disabled="disabled" @command="(value: V) => emit('choose', value)">
    <el-button size="large" :disabled="disabled" :aria-label="name">{{ label }}</el-button>
    <template #dropdown>
      <el-dropdown-menu>
        <el-dropdown-item v-for="act in acts" :key="act.value" :command="act.value">{{
          act.label
        }}</el-dropdown-item>
      </el-dropdown-menu>
    </template>
  </el-dropdown>
</template>
