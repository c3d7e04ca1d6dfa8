<script setup lang="ts">
import type { MethodSheet } from '@clear-mark/core';
import { type ClassDetail, contentOfTable, type SchoolTable, SchoolTableContent } from '@clear-mark/contract';
import { errorWords, fieldProblem } from '@clear-mark/words';
import { computed, onMounted, ref, shallowRef } from 'vue';
import { request, ROUTES } from '../../../api/client.ts';
import { askOnce, useAct, useReply } from '../../../api/queries.ts';
import ChoiceField from '../../../shared/ChoiceField.vue';
import SourceField from '../../../shared/SourceField.vue';
import ZoneRules from '../../../shared/ZoneRules.vue';
import { momentWords } from '../../../shared/time-words.ts';
import { POLICY_FIELDS } from '../policy.model.ts';
import DrillForm from './DrillForm.vue';
import LossTableForm from './LossTableForm.vue';
import { KIND_WORDS, type TableEdit } from './table-edit.model.ts';

/** One table of the school: a save is its next version, and what took an earlier one keeps it. */
const props = defineProps<{ edit: TableEdit; detail: ClassDetail }>();
const emit = defineEmits<{ close: []; saved: [table: SchoolTable] }>();
const table = shallowRef<SchoolTableContent>(props.edit.table);
const seenVersion = ref(props.edit.from);
const { failure, busy, act } = useAct();
const { found: versions } = useReply(ROUTES.schoolTableVersions, () =>
  props.edit.from === 0 ? null : { params: { id: props.edit.id } },
);
const sheets = shallowRef<readonly MethodSheet[]>([]);
onMounted(async () => {
  if (table.value.kind !== 'drill') return;
  const inUse = props.detail.methods.filter((m) => m.inUse);
  const found = await Promise.all(
    inUse.map((m) => askOnce(ROUTES.methodVersion, { params: { id: m.versionId } })),
  );
  sheets.value = found.map((v) => v.sheet);
});
function look(version: number): void {
  const there = versions.value?.find((v) => v.version === version);
  if (!there) return;
  seenVersion.value = version;
  table.value = contentOfTable(there);
}
const titled = (title: string): void => {
  const { kind, content } = table.value;
  table.value = {
    kind,
    title,
    content: kind === 'drill' ? { ...content, title } : content,
  } as SchoolTableContent;
};
const put = (content: SchoolTableContent['content']): void => {
  table.value = { ...table.value, content } as SchoolTableContent;
};
const facts = computed(() => {
  const shown = table.value;
  return shown.kind === 'policy'
    ? POLICY_FIELDS.map((f) => ({ label: f.label, value: shown.content.policy[f.key] }))
    : [];
});
const problem = computed(() => {
  const read = SchoolTableContent.safeParse(table.value);
  if (read.success) return null;
  const issue = read.error.issues[0]!;
  const field = issue.path.at(-1);
  const value = issue.path.reduce<unknown>((at, key) => (at as never)?.[key], table.value);
  return `${FIELD_WORDS[String(field)] ?? 'One of the fields'}: ${fieldProblem(issue, value)}`;
});
const FIELD_WORDS: Readonly<Record<string, string>> = {
  title: 'Name',
  how: 'How it is done',
  words: 'Source',
  name: 'Name of a consumable',
  each: 'Amount of a consumable',
};
async function save(): Promise<void> {
  await act(async () => {
    const { id, from, retired } = props.edit;
    const body = { from, retired, table: table.value };
    emit('saved', await request(ROUTES.saveSchoolTable, { params: { id }, body }));
  });
}
const moved = computed(() => failure.value === errorWords('school_table.moved', {}));
</script>

<template>
  <el-dialog
    model-value
    :title="`${KIND_WORDS[table.kind]}${edit.from === 0 ? ', new' : ''}`"
    width="min(760px, 94vw)"
    align-center
    data-test="table-dialog"
    @close="emit('close')"
  >
    <el-form label-position="top" size="large" @submit.prevent="save">
      <div class="row fields">
        <el-form-item class="title" label="Name">
          <el-input :model-value="table.title" aria-label="Name" maxlength="80" @input="titled" />
        </el-form-item>
        <ChoiceField
          v-if="versions && versions.length > 1"
          label="Begin from"
          :model-value="seenVersion"
          :options="
            versions.map((v) => ({
              value: v.version,
              label: `version ${v.version}, ${momentWords(v.editedAt, 'short')}, ${v.editedBy}`,
            }))
          "
          @change="look"
        />
      </div>
      <LossTableForm v-if="table.kind === 'loss'" :table="table.content" @change="put" />
      <DrillForm v-else-if="table.kind === 'drill'" :drill="table.content" :sheets="sheets" @change="put" />
      <template v-else-if="table.kind === 'zones'">
        <p class="soft">
          Its sizes are edited in Faces, Zone criteria, where they can be tried on a picture; begin from it
          there, save it for the class, and keep it for all classes.
        </p>
        <ZoneRules :zones="table.content.zones" class="facts" />
        <el-form-item label="Source">
          <SourceField
            :source="table.content.source"
            of="the zones"
            @change="(source) => table.kind === 'zones' && put({ ...table.content, source })"
          />
        </el-form-item>
      </template>
      <template v-else>
        <p class="soft">
          Its numbers are set in the policy of a class, where it can be tried; take it there, change it, and
          save it back as the next version.
        </p>
        <el-descriptions :column="2" border class="facts">
          <el-descriptions-item v-for="f in facts" :key="f.label" :label="f.label">{{
            f.value
          }}</el-descriptions-item>
        </el-descriptions>
        <el-form-item label="Source">
          <SourceField
            :source="table.content.source"
            of="the policy"
            @change="(source) => table.kind === 'policy' && put({ ...table.content, source })"
          />
        </el-form-item>
      </template>
    </el-form>
    <p v-if="failure ?? problem" class="notice" :class="{ bad: failure }" role="alert">
      {{ failure ?? problem }}
    </p>
    <template #footer>
      <el-button size="large" @click="emit('close')">Cancel</el-button>
      <el-button size="large" type="primary" :disabled="busy || problem !== null || moved" @click="save">{{
        edit.from === 0 ? 'Save' : `Save as version ${edit.from + 1}`
      }}</el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
.fields {
  align-items: flex-end;
  flex-wrap: wrap;
}
.title {
  width: min(100%, 460px);
}
.facts {
  margin: 10px 0 16px;
}
</style>
