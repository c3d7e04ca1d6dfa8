<script setup lang="ts">
/** A secret that was just made: shown until whoever asked for it has it, and never again. */
defineProps<{ secret: string; name: string }>();
const emit = defineEmits<{ taken: [] }>();
</script>

<template>
  <div class="notice" role="status">
    <p><slot /> Keep it now: it is not shown again.</p>
    <p class="secret" :data-test="name">{{ secret }}</p>
    <el-button size="large" @click="emit('taken')">I have it</el-button>
  </div>
</template>

<style scoped>
.secret {
  font-family: var(--mono, monospace);
  overflow-wrap: anywhere;
  margin: 8px 0;
}
</style>
