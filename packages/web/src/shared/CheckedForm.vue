<script setup lang="ts">
import type { FormInstance, FormRules } from 'element-plus';
import type { Ref } from 'vue';

/** The frame of a form that `useForm` checks: its fields stand in it, with their labels above them. */
const props = defineProps<{
  of: { readonly values: object; readonly rules: FormRules; readonly form: Ref<FormInstance | null> };
}>();
const emit = defineEmits<{ send: [] }>();
const { form, rules, values } = props.of;
</script>

<template>
  <el-form
    ref="form"
    :model="values"
    :rules="rules"
    label-position="top"
    size="large"
    hide-required-asterisk
    @submit.prevent="emit('send')"
  >
    <slot />
  </el-form>
</template>
