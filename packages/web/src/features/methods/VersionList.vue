<script setup lang="ts">
import type { MethodVersion, MethodVersionHead } from '@clear-mark/contract';
import { METHOD_STATE_WORDS } from '@clear-mark/words';
import { computed } from 'vue';
import { ROUTES } from '../../api/client.ts';
import { useReply } from '../../api/queries.ts';
import { momentWords } from '../../shared/time-words.ts';

/** All versions of a method, each to be opened and to be compared with the one that is shown. */
const props = defineProps<{ version: MethodVersion; classId: string }>();
const { found } = useReply(ROUTES.versionsBeside, () => ({ params: { id: props.version.id } }));
const versions = computed(() => (found.value ?? []) as MethodVersionHead[]);
</script>

<template>
  <section v-if="versions.length > 1" class="section">
    <h2>Versions</h2>
    <el-table :data="versions" row-key="id">
      <el-table-column label="Version" width="110">
        <template #default="{ row }: { row: MethodVersionHead }">
          <b v-if="row.id === version.id">{{ row.version }}</b>
          <RouterLink v-else :to="{ name: 'method', params: { classId, versionId: row.id } }">{{
            row.version
          }}</RouterLink>
        </template>
      </el-table-column>
      <el-table-column label="State" width="130">
        <template #default="{ row }: { row: MethodVersionHead }">{{
          METHOD_STATE_WORDS[row.state]
        }}</template>
      </el-table-column>
      <el-table-column label="Since" min-width="180">
        <template #default="{ row }: { row: MethodVersionHead }">{{
          momentWords(row.madeAt, 'full')
        }}</template>
      </el-table-column>
      <el-table-column label="" min-width="220">
        <template #default="{ row }: { row: MethodVersionHead }">
          <RouterLink
            v-if="row.id !== version.id"
            :to="{
              name: 'compare-methods',
              params: { classId, versionId: version.id },
              query: { with: row.id },
            }"
            >Compare with version {{ row.version }}</RouterLink
          >
        </template>
      </el-table-column>
    </el-table>
  </section>
</template>
