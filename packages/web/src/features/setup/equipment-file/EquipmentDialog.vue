<script setup lang="ts">
import type { Thing } from '@clear-mark/contract';
import { thingWords } from '@clear-mark/words';
import { computed } from 'vue';
import { request, ROUTES } from '../../../api/client.ts';
import { useAct } from '../../../api/queries.ts';
import CsvDialog from '../../../shared/csv/CsvDialog.vue';
import { useCsvFile } from '../../../shared/csv/use-csv-file.ts';
import { type Column, EQUIPMENT, equipmentBody, type Line, linesOf, withBoth } from './equipment.model.ts';

/** A list of equipment out of a file: looked through before it is taken, all of it or nothing. */
const props = defineProps<{ classId: string; things: readonly Thing[] }>();
const emit = defineEmits<{ close: []; added: [] }>();
const { failure, busy, act } = useAct();
const COLUMNS: readonly { readonly value: Column; readonly label: string }[] = [
  { value: 'kind', label: 'Kind' },
  { value: 'label', label: 'Label' },
];
const csv = useCsvFile(EQUIPMENT, withBoth);
const lines = computed(() =>
  csv.file.value === null ? [] : linesOf(csv.file.value, csv.mapping.value, props.things),
);
const body = computed(() => equipmentBody(lines.value));
const count = computed(() => body.value.things.length);
const BECOMES: Readonly<Record<Line['becomes'], string>> = {
  new: 'added',
  here: 'there already: left out',
  twice: 'twice in the file: left out',
  bad: 'cannot be taken',
};
async function take(): Promise<void> {
  const given = { params: { id: props.classId }, body: body.value };
  if (await act(() => request(ROUTES.addThings, given))) emit('added');
}
</script>

<template>
  <CsvDialog
    title="Equipment out of a file"
    :of="csv"
    :columns="COLUMNS"
    :lines="lines"
    :becomes="BECOMES"
    :count="count"
    :add="`Add ${count}`"
    :failure="failure"
    :busy="busy"
    @close="emit('close')"
    @take="take"
  >
    <template #intro>
      <p class="soft">
        A column with the kind (bench, cleaver, scope, instrument, cord …) and one with the label.
      </p>
    </template>
    <el-table-column label="Kind" min-width="150">
      <template #default="{ row }: { row: Line }">{{ row.kind ? thingWords(row.kind) : '' }}</template>
    </el-table-column>
    <el-table-column prop="label" label="Label" min-width="150" />
  </CsvDialog>
</template>
