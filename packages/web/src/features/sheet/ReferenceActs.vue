<script setup lang="ts">
/** The reference of a loss test: set it, and once something was read with it, read it again. */
defineProps<{ read: boolean }>();
const emit = defineEmits<{ reference: []; reread: [] }>();
</script>

<template>
  <span class="row">
    <el-button v-if="read" size="large" data-test="reread-here" @click="emit('reread')">
      Read reference again
    </el-button>
    <el-button size="large" @click="emit('reference')">Set reference</el-button>
  </span>
</template>
