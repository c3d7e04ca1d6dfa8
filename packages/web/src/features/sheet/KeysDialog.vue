<script setup lang="ts">
import { KEYS } from './keys.ts';

const emit = defineEmits<{ close: [] }>();
</script>

<template>
  <el-dialog :model-value="true" title="Keys" width="520" append-to-body @close="emit('close')">
    <dl>
      <div v-for="k in KEYS" :key="k.key">
        <dt>{{ k.key }}</dt>
        <dd>{{ k.does }}</dd>
      </div>
    </dl>
  </el-dialog>
</template>

<style scoped>
dl {
  margin: 0;
}
dl > div {
  display: grid;
  grid-template-columns: 90px minmax(0, 1fr);
  padding: 6px 0;
  border-bottom: 1px solid var(--hair);
}
dt {
  font-weight: 700;
  white-space: nowrap;
}
dd {
  margin: 0;
}
</style>
