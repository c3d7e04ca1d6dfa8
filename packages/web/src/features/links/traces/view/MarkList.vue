<script setup lang="ts">
import type { TraceMark } from '@clear-mark/core';
import { TRACE_MARK_WORDS } from '@clear-mark/words';
import { usePreferences } from '../../../../shell/preferences.ts';
import { placeWords } from './trace-view.model.ts';

/** The marks so far, each taken away by itself. */
const marks = defineModel<readonly TraceMark[]>({ required: true });
const preferences = usePreferences();
</script>

<template>
  <ul v-if="marks.length > 0" class="marks" data-test="marks">
    <li v-for="(m, i) in marks" :key="`${m.positionM}${m.kind}`">
      <el-tag size="large" closable disable-transitions @close="marks = marks.filter((_, k) => k !== i)">
        {{ placeWords(m.positionM, preferences.distanceUnit) }}: {{ TRACE_MARK_WORDS[m.kind].toLowerCase() }}
      </el-tag>
    </li>
  </ul>
  <p v-else class="soft">Nothing is marked yet.</p>
</template>

<style scoped>
.marks {
  list-style: none;
  margin: 8px 0;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
</style>
