<script setup lang="ts">
import type { Account, ClassDetail } from '@clear-mark/contract';
import { computed, reactive } from 'vue';
import { request, ROUTES } from '../../../api/client.ts';
import { useAct } from '../../../api/queries.ts';
import CsvDialog from '../../../shared/csv/CsvDialog.vue';
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
  <CsvDialog
    title="A roster out of a file"
    :of="csv"
    :columns="COLUMNS"
    :lines="lines"
    :becomes="BECOMES"
    :count="count"
    :add="`Add ${count} ${count === 1 ? 'trainee' : 'trainees'}`"
    :failure="failure"
    :busy="busy"
    @close="emit('close')"
    @take="take"
  >
    <el-table-column prop="name" label="Name" min-width="180" />
    <el-table-column prop="group" label="Group" width="130" />
    <template #act="{ line }">
      <el-switch
        v-if="line.becomes === 'known'"
        :model-value="!apart.has(line.number)"
        size="large"
        :active-text="`the same as in ${classesOf(line) || 'the school'}`"
        inactive-text="somebody else"
        :aria-label="`${line.name} is the same person`"
        @update:model-value="(on: string | number | boolean) => turn(line, Boolean(on))"
      />
      <template v-else>{{ BECOMES[line.becomes] }}</template>
    </template>
  </CsvDialog>
</template>
