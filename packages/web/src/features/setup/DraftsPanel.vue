<script setup lang="ts">
import type { MethodDraftHead } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { useRouter } from 'vue-router';
import { request, ROUTES } from '../../api/client.ts';
import { useAct, useReply } from '../../api/queries.ts';
import { momentWords } from '../../shared/time-words.ts';

/** Drafts of the school's own methods, and the way to begin one from nothing. */
const props = defineProps<{ classId: string }>();
const router = useRouter();
const { found, failure } = useReply(ROUTES.methodDrafts, () => ({}));
const { failure: notBegun, busy, act } = useAct();
async function begin(): Promise<void> {
  await act(async () => {
    const draft = await request(ROUTES.addDraft, {
      body: { id: v7(), from: null, as: 'new_method', title: 'New method' },
    });
    await router.push({ name: 'draft', params: { classId: props.classId, draftId: draft.id } });
  });
}
</script>

<template>
  <section class="section" data-test="drafts">
    <h2>Methods of your own</h2>
    <p class="soft">
      Open a method and copy it to change its steps, lengths and limits, or begin an empty one. What is
      written is a draft until it is published.
    </p>
    <p v-if="failure ?? notBegun" class="notice bad" role="alert">{{ failure ?? notBegun }}</p>
    <el-table v-if="found?.length" :data="found as MethodDraftHead[]" row-key="id">
      <el-table-column label="Draft" min-width="280">
        <template #default="{ row }: { row: MethodDraftHead }">
          <RouterLink :to="{ name: 'draft', params: { classId, draftId: row.id } }">{{
            row.title || 'A method without a name'
          }}</RouterLink>
        </template>
      </el-table-column>
      <el-table-column prop="version" label="Version" width="110" align="right" />
      <el-table-column label="Last edited" min-width="240">
        <template #default="{ row }: { row: MethodDraftHead }"
          >{{ momentWords(row.editedAt, 'full') }} by {{ row.editedBy }}</template
        >
      </el-table-column>
    </el-table>
    <el-button class="begin" size="large" :disabled="busy" @click="begin">Begin an empty method</el-button>
  </section>
</template>

<style scoped>
.begin {
  margin-top: 10px;
}
</style>
