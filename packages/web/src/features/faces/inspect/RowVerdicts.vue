<script setup lang="ts">
import type { MeasuredRow, RowFiber } from '@clear-mark/core';
import { allowedWords, breachWords, FACE_REFUSAL_WORDS } from '@clear-mark/words';
import VerdictRing from '../../../shared/VerdictRing.vue';

/** Each fiber of a row, graded on core and cladding. */
defineProps<{ row: MeasuredRow & { ok: true } }>();
const wordsOf = (face: RowFiber['face']): string => {
  if (!face.ok) return FACE_REFUSAL_WORDS[face.reason];
  const words = face.grade.zones.flatMap((z) =>
    z.breaches.map((b) => `${z.zone}: ${breachWords(b, face.features)}`),
  );
  return words.length > 0 ? words.join('; ') : allowedWords(face.features.length);
};
</script>

<template>
  <div class="three">
    <span class="soft small">Engine, the row of {{ row.fibers.length }}</span>
    <VerdictRing v-if="row.verdict" :verdict="row.verdict" :size="34" word data-test="row-verdict" />
    <span v-else>not wholly graded</span>
  </div>
  <el-table :data="[...row.fibers]" row-key="fiber" :show-header="false">
    <el-table-column width="46">
      <template #default="{ row: f }: { row: RowFiber }"><b>{{ f.fiber }}</b></template>
    </el-table-column>
    <el-table-column width="120">
      <template #default="{ row: f }: { row: RowFiber }">
        <VerdictRing v-if="f.face.ok" :verdict="f.face.grade.verdict" :size="22" word />
        <span v-else class="soft">not graded</span>
      </template>
    </el-table-column>
    <el-table-column>
      <template #default="{ row: f }: { row: RowFiber }"
        ><span :data-fiber="f.fiber">{{ wordsOf(f.face) }}</span></template
      >
    </el-table-column>
  </el-table>
  <p class="small soft">Graded on zones A and B, as multi-fiber ferrules are.</p>
</template>

<style scoped>
.three {
  display: grid;
  gap: 2px;
  margin-bottom: 10px;
}
.three :deep(.word) {
  font-size: 1.375rem;
}
</style>
