<script setup lang="ts">
import type { Account, ClassDetail } from '@clear-mark/contract';
import { computed, reactive } from 'vue';
import { request, ROUTES } from '../../../api/client.ts';
import { useAct } from '../../../api/queries.ts';
import CsvFileField from '../../../shared/csv/CsvFileField.vue';
import { useCsvFile } from '../../../shared/csv/use-csv-file.ts';
import { type Column, type Line, linesOf, ROSTER, rosterBody, withName } from './roster.model.ts';

/** A roster out of a file: looked through before it is taken, all of it or nothing. */
const props = defineProps<{ detail: ClassDetail; people: readonly Account[] }>();
const emit = defineEmits<{ close: []; added: [count: number] }>();
const { failure, busy, act } = useAct();
/** Lines whose person is another one of the same name. */
const apart = reactive(new Set<number>());
const COLUMNS: readonly { readonly value: Column; readonly label: string }[] = [
  { value: 'name', label: 'Name' },
  { value: 'first', label: 'First name' },
  { value: 'last', label: 'Last name' },
  { value: 'group', label: 'Group' },
];

const csv = useCsvFile(ROSTER, (mapping) => {
  apart.clear();
  return withName(mapping);
});
const lines = computed(() =>
  csv.file.value === null
    ? []
    : linesOf(csv.file.value, csv.mapping.value, { inClass: props.detail.trainees, people: props.people }),
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
    <CsvFileField :of="csv" :columns="COLUMNS" />
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <template v-if="csv.file.value">
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
