<script setup lang="ts">
import { MARK_KINDS, type TraceMarkKind } from '@clear-mark/core';
import { TRACE_MARK_WORDS } from '@clear-mark/words';

/** What the next tap on the trace marks. */
const kind = defineModel<TraceMarkKind | null>({ required: true });
</script>

<template>
  <div class="row kinds">
    <span class="soft">A tap on the trace marks:</span>
    <el-radio-group v-model="kind" size="large" aria-label="What a tap on the trace marks">
      <el-radio-button v-for="k in MARK_KINDS" :key="k" :value="k">{{ TRACE_MARK_WORDS[k] }}</el-radio-button>
    </el-radio-group>
  </div>
</template>

<style scoped>
.kinds {
  flex-wrap: wrap;
  margin: 8px 0;
}
</style>
