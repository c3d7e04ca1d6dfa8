<script setup lang="ts">
/** A line of text in a form that is checked: its label above it, what is wrong with it below. Further attributes go to the input. */
defineOptions({ inheritAttrs: false });
const text = defineModel<string>({ required: true });
defineProps<{ prop: string; label: string; refused?: string | undefined }>();
</script>

<template>
  <el-form-item :prop="prop" :label="label" :error="refused">
    <el-input v-model="text" v-bind="$attrs" />
  </el-form-item>
</template>
