<script setup lang="ts">
import { isOwnMethod } from '@clear-mark/core';
import type { MethodVersion } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { ref } from 'vue';
import { useRouter } from 'vue-router';
import { request, ROUTES } from '../../api/client.ts';
import { useAct } from '../../api/queries.ts';

/** What a lead does with a version: a copy as a method of the school's own, or the next version of one. */
const props = defineProps<{ version: MethodVersion; classId: string }>();
const router = useRouter();
const { failure, busy, act } = useAct();
const asking = ref(false);
const title = ref('');
function ask(): void {
  title.value = `${props.version.sheet.title}, our way`;
  asking.value = true;
}
async function begin(as: 'new_method' | 'next_version', name: string): Promise<void> {
  await act(async () => {
    const draft = await request(ROUTES.addDraft, {
      body: { id: v7(), from: props.version.id, as, title: name },
    });
    await router.push({ name: 'draft', params: { classId: props.classId, draftId: draft.id } });
  });
}
</script>

<template>
  <el-button
    v-if="isOwnMethod(version.methodId)"
    size="large"
    type="primary"
    :disabled="busy"
    @click="begin('next_version', version.sheet.title)"
  >
    Write the next version
  </el-button>
  <el-button size="large" :disabled="busy" @click="ask">Copy as a new method</el-button>
  <p v-if="failure && !asking" class="notice bad" role="alert">{{ failure }}</p>
  <el-dialog v-model="asking" title="Copy as a new method" width="min(520px, 94vw)">
    <el-form label-position="top" size="large" @submit.prevent="begin('new_method', title)">
      <el-form-item label="Name of the new method">
        <el-input v-model="title" maxlength="120" aria-label="Name of the new method" autofocus />
      </el-form-item>
    </el-form>
    <p class="soft">Steps, limits and cautions are copied. The method that it came from stays as it is.</p>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <template #footer>
      <el-button size="large" @click="asking = false">Cancel</el-button>
      <el-button
        size="large"
        type="primary"
        :disabled="busy || title.trim() === ''"
        @click="begin('new_method', title)"
        >Copy</el-button
      >
    </template>
  </el-dialog>
</template>
