<script setup lang="ts">
import { zoneChoices } from './time-zone.model.ts';

/** A zone of time, found by typing a part of its name or its distance to UTC. */
const props = defineProps<{ modelValue: string; id?: string }>();
const emit = defineEmits<{ 'update:modelValue': [zone: string] }>();
defineOptions({ inheritAttrs: false });
const choices = zoneChoices(new Date(), props.modelValue);
</script>

<template>
  <el-select-v2
    :id="id"
    v-bind="$attrs"
    class="zone"
    size="large"
    filterable
    :model-value="modelValue"
    :options="choices"
    no-match-text="No zone of that name"
    @update:model-value="emit('update:modelValue', $event)"
  />
</template>

<style scoped>
.zone {
  width: 100%;
}
</style>
