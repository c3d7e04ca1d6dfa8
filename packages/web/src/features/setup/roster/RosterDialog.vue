<script setup lang="ts">
import type { Account, ClassDetail } from '@clear-mark/contract';
import type { UploadFile } from 'element-plus';
import { computed, reactive, ref, shallowRef } from 'vue';
import { request, ROUTES } from '../../../api/client.ts';
import { useAct } from '../../../api/queries.ts';
import ChoiceField from '../../../shared/ChoiceField.vue';
import {
  type Column,
  type Line,
  linesOf,
  type Mapping,
  mappingOf,
  readRoster,
  rosterBody,
  type RosterFile,
  textOf,
} from './roster.model.ts';

/** A roster out of a file: looked through before it is taken, all of it or nothing. */
const props = defineProps<{ detail: ClassDetail; people: readonly Account[] }>();
const emit = defineEmits<{ close: []; added: [count: number] }>();
const { failure, busy, act } = useAct();
const file = shallowRef<RosterFile | null>(null);
const latin = ref(false);
const refused = ref<string | null>(null);
const mapping = ref<Mapping>({});
/** Lines whose person is another one of the same name. */
const apart = reactive(new Set<number>());
const COLUMNS: readonly { readonly value: Column; readonly label: string }[] = [
  { value: 'name', label: 'Name' },
  { value: 'first', label: 'First name' },
  { value: 'last', label: 'Last name' },
  { value: 'group', label: 'Group' },
];

async function open({ raw }: UploadFile): Promise<void> {
  if (!raw) return;
  const read = textOf(await raw.arrayBuffer());
  const found = readRoster(read.text);
  ({ latin: latin.value } = read);
  refused.value = found.kind === 'refused' ? found.why : null;
  file.value = found.kind === 'read' ? found.file : null;
  if (file.value) mapping.value = mappingOf(file.value);
  apart.clear();
}
const NONE = -1;
const choices = computed(() => [
  { value: NONE, label: 'not there' },
  ...(file.value?.headings ?? []).map((label, value) => ({ value, label })),
]);
function map(column: Column, index: number): void {
  const { [column]: _, ...rest } = mapping.value;
  mapping.value = index === NONE ? rest : { ...rest, [column]: index };
}
const lines = computed(() =>
  file.value === null
    ? []
    : linesOf(file.value, mapping.value, { inClass: props.detail.trainees, people: props.people }),
);
const bad = computed(() => lines.value.filter((l) => l.becomes === 'bad').length);
const body = computed(() => rosterBody(lines.value, apart));
const count = computed(() => body.value.people.length);
const BECOMES: Readonly<Record<Line['becomes'], string>> = {
  new: 'new to the school',
  known: 'in the school already',
  here: 'in this class already: left out',
  twice: 'twice in the file: left out',
  bad: 'cannot be taken',
};
const classesOf = (line: Line): string => (line.known?.classes ?? []).map((c) => c.name).join(', ');
const turn = (line: Line, same: boolean): void =>
  void (same ? apart.delete(line.number) : apart.add(line.number));
async function take(): Promise<void> {
  const given = { params: { id: props.detail.id }, body: body.value };
  if (await act(() => request(ROUTES.addRoster, given))) emit('added', count.value);
}
</script>

<template>
  <el-dialog
    model-value
    title="A roster out of a file"
    width="min(860px, 96vw)"
    align-center
    data-test="roster"
    @close="emit('close')"
  >
    <el-upload :auto-upload="false" :show-file-list="false" accept=".csv,.txt,text/csv" :on-change="open">
      <template #trigger>
        <el-button size="large" tag="span">{{ file ? 'Another file' : 'Open a CSV file' }}</el-button>
      </template>
    </el-upload>
    <p v-if="refused ?? failure" class="notice bad" role="alert">{{ refused ?? failure }}</p>
    <template v-if="file">
      <p v-if="latin" class="notice">
        The file is not in UTF-8: its letters are read as those of western Europe. Look at the names.
      </p>
      <div class="row columns">
        <ChoiceField
          v-for="c in COLUMNS"
          :key="c.value"
          :label="c.label"
          :model-value="mapping[c.value] ?? NONE"
          :options="choices"
          @change="map(c.value, $event)"
        />
      </div>
      <el-table :data="lines as Line[]" row-key="number" max-height="360">
        <el-table-column prop="number" label="Line" width="70" align="right" />
        <el-table-column prop="name" label="Name" min-width="180" />
        <el-table-column prop="group" label="Group" width="130" />
        <el-table-column label="What becomes of it" min-width="300">
          <template #default="{ row }: { row: Line }">
            <b v-if="row.becomes === 'bad'">{{ row.problem }}</b>
            <el-switch
              v-else-if="row.becomes === 'known'"
              :model-value="!apart.has(row.number)"
              size="large"
              :active-text="`the same as in ${classesOf(row) || 'the school'}`"
              inactive-text="somebody else"
              :aria-label="`${row.name} is the same person`"
              @update:model-value="(on: string | number | boolean) => turn(row, Boolean(on))"
            />
            <template v-else>{{ BECOMES[row.becomes] }}</template>
          </template>
        </el-table-column>
      </el-table>
      <p v-if="bad > 0" class="notice">
        {{ bad }} {{ bad === 1 ? 'line' : 'lines' }} cannot be taken: put the file right, or map the columns.
        Nothing is added before.
      </p>
    </template>
    <template #footer>
      <el-button size="large" @click="emit('close')">Cancel</el-button>
      <el-button size="large" type="primary" :disabled="count === 0 || bad > 0" :loading="busy" @click="take"
        >Add {{ count }} {{ count === 1 ? 'trainee' : 'trainees' }}</el-button
      >
    </template>
  </el-dialog>
</template>

<style scoped>
.columns {
  flex-wrap: wrap;
  margin: 12px 0;
}
</style>
