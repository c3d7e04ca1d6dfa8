<script setup lang="ts">
import { ref, watch } from 'vue';

/** A field whose text is its own while it is typed in, and is handed over when it is left or Enter is pressed. */
const props = defineProps<{
  value: string;
  label: string;
  inputmode?: 'decimal' | 'text';
  maxlength?: number;
}>();
const emit = defineEmits<{ commit: [text: string] }>();
const text = ref(props.value);
watch(
  () => props.value,
  (now) => (text.value = now),
);
function commit(): void {
  if (text.value !== props.value) emit('commit', text.value);
  // What was not taken goes back to what stands.
  text.value = props.value;
}
</script>

<template>
  <el-input
    v-model="text"
    :aria-label="label"
    :inputmode="inputmode ?? 'text'"
    :maxlength="maxlength"
    autocomplete="off"
    @change="commit"
  />
</template>
