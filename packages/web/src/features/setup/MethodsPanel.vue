<script setup lang="ts">
import type { ClassDetail } from '@clear-mark/contract';
import { request, ROUTES } from '../../api/client.ts';
import { useAct } from '../../api/queries.ts';
import { useSession } from '../../session/session.ts';
import DraftsPanel from './DraftsPanel.vue';
import PacksPanel from './PacksPanel.vue';
import TablesPanel from './tables/TablesPanel.vue';
import { offerUndo } from '../../shared/undo.ts';

/** Which methods the class is taught and scored by. */
const props = defineProps<{ detail: ClassDetail }>();
const emit = defineEmits<{ changed: [] }>();
type Method = ClassDetail['methods'][number];
const { failure, act } = useAct();
const session = useSession();
async function use(method: Method, inUse: boolean): Promise<void> {
  const body = { versionId: method.versionId, inUse };
  const done = await act(() => request(ROUTES.useMethod, { params: { id: props.detail.id }, body }));
  emit('changed');
  if (done) {
    offerUndo(`${method.title} is ${inUse ? 'in use' : 'out of use'}.`, () => use(method, !inUse));
  }
}
</script>

<template>
  <section class="section">
    <h2>Methods in use</h2>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <p v-if="!detail.methods.some((m) => m.inUse)" class="notice">
      Switch on at least one: a piece is started and scored by it.
    </p>
    <el-table :data="detail.methods as Method[]" row-key="versionId">
      <el-table-column prop="inUse" label="In use" sortable width="110">
        <template #default="{ row }: { row: Method }">
          <span v-if="row.state === 'draft'" class="soft">draft</span>
          <el-switch
            v-else
            size="large"
            :model-value="row.inUse"
            :aria-label="`Use ${row.title}`"
            @change="(on: string | number | boolean) => use(row, Boolean(on))"
          />
        </template>
      </el-table-column>
      <el-table-column prop="title" label="Method" sortable min-width="300">
        <template #default="{ row }: { row: Method }">
          <RouterLink :to="{ name: 'method', params: { classId: detail.id, versionId: row.versionId } }">{{
            row.title
          }}</RouterLink>
        </template>
      </el-table-column>
      <el-table-column prop="version" label="Version" width="110" align="right" />
    </el-table>
  </section>
  <template v-if="session.me?.role === 'lead'">
    <DraftsPanel :class-id="detail.id" />
    <TablesPanel :detail="detail" />
    <PacksPanel @changed="emit('changed')" />
  </template>
</template>
