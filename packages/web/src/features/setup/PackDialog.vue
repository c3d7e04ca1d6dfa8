<script setup lang="ts">
import { isOwnMethod } from '@clear-mark/core';
import { PackOrder, ROUTES } from '@clear-mark/contract';
import { computed, ref, watch } from 'vue';
import { request } from '../../api/client.ts';
import { useReply } from '../../api/queries.ts';
import { download, fileName } from '../../shared/save-file.ts';
import CheckedForm from '../../shared/CheckedForm.vue';
import { useForm } from '../../shared/use-form.ts';

/** Which methods go into a pack, and what it says of itself. */
const emit = defineEmits<{ close: [] }>();
const { found, failure: unread } = useReply(ROUTES.methodsOfSchool, () => ({}));
const chosen = ref<string[]>([]);
/** A school's own are what it has to give; where it has none all are chosen. */
watch(
  found,
  (all) => {
    const own = (all ?? []).filter((m) => isOwnMethod(m.methodId));
    chosen.value = (own.length > 0 ? own : (all ?? [])).map((m) => m.id);
  },
  { immediate: true },
);
const form = useForm(PackOrder.omit({ versionIds: true, tableIds: true }), {
  title: '',
  author: '',
  licence: '',
  language: 'en',
});
const { found: ofSchool } = useReply(ROUTES.schoolTables, () => ({}));
const offered = computed(() => (ofSchool.value ?? []).filter((t) => !t.retired));
const tables = ref<string[]>([]);
watch(offered, (all) => (tables.value = all.map((t) => t.id)), { immediate: true });
const failure = computed(() => form.failure.value ?? unread.value);
async function save(): Promise<void> {
  const done = await form.send(async (head) => {
    const { text } = await request(ROUTES.makePack, {
      body: { ...head, versionIds: chosen.value, tableIds: tables.value },
    });
    download(fileName(head.title, 'json'), new Blob([text], { type: 'application/json' }));
  });
  if (done) emit('close');
}
</script>

<template>
  <el-dialog
    model-value
    title="Save methods as a pack"
    width="min(620px, 94vw)"
    align-center
    @close="emit('close')"
  >
    <CheckedForm :of="form" @send="save">
      <el-form-item label="Methods">
        <el-select
          v-model="chosen"
          multiple
          filterable
          collapse-tags
          :max-collapse-tags="4"
          aria-label="Methods"
        >
          <el-option
            v-for="m in found ?? []"
            :key="m.id"
            :value="m.id"
            :label="`${m.title}, version ${m.version}`"
          />
        </el-select>
      </el-form-item>
      <el-form-item v-if="offered.length > 0" label="Loss tables, drills, policies and zones">
        <el-select
          v-model="tables"
          multiple
          filterable
          collapse-tags
          :max-collapse-tags="4"
          aria-label="Loss tables, drills, policies and zones"
        >
          <el-option
            v-for="t in offered"
            :key="t.id"
            :value="t.id"
            :label="`${t.title}, version ${t.version}`"
          />
        </el-select>
      </el-form-item>
      <el-form-item label="Name of the pack" prop="title">
        <el-input v-model="form.values.title" aria-label="Name of the pack" maxlength="200" />
      </el-form-item>
      <el-form-item label="Who wrote it" prop="author">
        <el-input v-model="form.values.author" aria-label="Who wrote it" maxlength="200" />
      </el-form-item>
      <el-form-item label="What may be done with it" prop="licence">
        <el-input
          v-model="form.values.licence"
          type="textarea"
          autosize
          aria-label="What may be done with it"
          maxlength="5000"
        />
      </el-form-item>
      <el-form-item label="Language, such as en or pt-BR" prop="language">
        <el-input v-model="form.values.language" aria-label="Language" maxlength="20" />
      </el-form-item>
    </CheckedForm>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <template #footer>
      <el-button size="large" @click="emit('close')">Cancel</el-button>
      <el-button size="large" type="primary" :disabled="form.busy.value || chosen.length === 0" @click="save"
        >Save the pack</el-button
      >
    </template>
  </el-dialog>
</template>
