<script setup lang="ts">
import { KEYS } from './keys.ts';

const emit = defineEmits<{ close: [] }>();
</script>

<template>
  <el-dialog :model-value="true" title="Keys" width="520" append-to-body @close="emit('close')">
    <table class="plain">
      <tbody>
        <tr v-for="k in KEYS" :key="k.key">
          <td class="key">{{ k.key }}</td>
          <td>{{ k.does }}</td>
        </tr>
      </tbody>
    </table>
  </el-dialog>
</template>

<style scoped>
.key {
  font-weight: 700;
  white-space: nowrap;
}
</style>
