<script setup lang="ts">
import type { PackPreview } from '@clear-mark/contract';
import type { UploadFile } from 'element-plus';
import { computed, ref, shallowRef } from 'vue';
import { request, ROUTES } from '../../api/client.ts';
import { useAct } from '../../api/queries.ts';
import { KIND_WORDS } from './tables/table-edit.model.ts';
import PackDialog from './PackDialog.vue';

/** Methods taken to another school as one file, and taken in from one: seen first, then all of it or nothing. */
const emit = defineEmits<{ changed: [] }>();
const { failure, busy, act } = useAct();
const making = ref(false);
const pack = shallowRef<unknown>(null);
const preview = shallowRef<PackPreview | null>(null);
const unread = ref<string | null>(null);
const taken = ref<string | null>(null);
const IS_WORDS = {
  new: 'new: in force at once',
  next: 'a further version: arrives as a draft',
  equal: 'here already',
  earlier: 'an earlier version: the later one here stays',
} as const;

const TAKEN: readonly string[] = ['new', 'next'];
/** Methods, then tables, as lines of one list. */
const parts = computed(() => [
  ...(preview.value?.methods ?? []).map((m) => ({
    ...m,
    id: m.methodId,
    kind: 'Method',
    words: IS_WORDS[m.is],
  })),
  ...(preview.value?.tables ?? []).map((t) => ({
    ...t,
    kind: KIND_WORDS[t.kind],
    words:
      t.is === 'next'
        ? 'a further version: in use at once'
        : t.is === 'new'
          ? 'new: in use at once'
          : IS_WORDS[t.is],
  })),
]);

async function open({ raw }: UploadFile): Promise<void> {
  preview.value = null;
  unread.value = null;
  taken.value = null;
  if (!raw) return;
  try {
    pack.value = JSON.parse(await raw.text());
  } catch (error) {
    unread.value = `${raw.name} is no JSON file: ${(error as Error).message}. Nothing was taken.`;
    return;
  }
  await act(async () => {
    preview.value = await request(ROUTES.previewPack, { body: { pack: pack.value } });
  });
}
async function take(): Promise<void> {
  await act(async () => {
    const done = await request(ROUTES.importPack, { body: { pack: pack.value } });
    const some = done.methods.filter((m) => m.is !== 'equal').length;
    const tables = done.tables.filter((t) => TAKEN.includes(t.is)).length;
    const also = tables === 0 ? '' : ` and ${tables} of ${done.tables.length} tables`;
    taken.value = `${some} of ${done.methods.length} methods${also} were taken from “${done.title}”.`;
    preview.value = null;
    emit('changed');
  });
}
</script>

<template>
  <section class="section" data-test="packs">
    <h2>Method packs</h2>
    <p class="soft">
      A pack is one file with methods, who wrote them and what may be done with them, for another school.
    </p>
    <div class="row">
      <el-button size="large" @click="making = true">Save methods as a pack</el-button>
      <el-upload
        :auto-upload="false"
        :show-file-list="false"
        accept=".json,application/json"
        :on-change="open"
      >
        <template #trigger>
          <el-button size="large" tag="span">Open a pack</el-button>
        </template>
      </el-upload>
    </div>
    <p v-if="unread ?? failure" class="notice bad" role="alert">{{ unread ?? failure }}</p>
    <p v-if="taken" class="notice" role="status">{{ taken }}</p>
    <div v-if="preview" class="preview" data-test="preview">
      <p>
        <b>{{ preview.title }}</b> by {{ preview.author }}, in {{ preview.language }}. {{ preview.licence }}
      </p>
      <el-table :data="parts" row-key="id">
        <el-table-column prop="title" label="Name" min-width="260" />
        <el-table-column prop="kind" label="Kind" width="120" />
        <el-table-column prop="version" label="Version" width="110" align="right" />
        <el-table-column prop="words" label="What becomes of it" min-width="260" />
      </el-table>
      <div class="row acts">
        <el-button
          size="large"
          type="primary"
          :disabled="busy || parts.every((p) => !TAKEN.includes(p.is))"
          @click="take"
          >Take all of them</el-button
        >
        <el-button size="large" @click="preview = null">Cancel</el-button>
      </div>
    </div>
    <PackDialog v-if="making" @close="making = false" />
  </section>
</template>

<style scoped>
.preview {
  margin-top: 12px;
}
.acts {
  margin-top: 10px;
}
</style>
