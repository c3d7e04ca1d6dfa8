<script setup lang="ts">
import type { Thing } from '@clear-mark/contract';
import { thingWords } from '@clear-mark/words';
import { computed } from 'vue';
import { request, ROUTES } from '../../../api/client.ts';
import { useAct } from '../../../api/queries.ts';
import CsvFileField from '../../../shared/csv/CsvFileField.vue';
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
const bad = computed(() => lines.value.filter((l) => l.becomes === 'bad').length);
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
  <el-dialog
    model-value
    title="Equipment out of a file"
    width="min(760px, 96vw)"
    align-center
    data-test="equipment-file"
    @close="emit('close')"
  >
    <p class="soft">
      A column with the kind (bench, cleaver, scope, instrument, cord …) and one with the label.
    </p>
    <CsvFileField :of="csv" :columns="COLUMNS" />
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <template v-if="csv.file.value">
      <el-table :data="lines as Line[]" row-key="number" max-height="360">
        <el-table-column prop="number" label="Line" width="70" align="right" />
        <el-table-column label="Kind" min-width="150">
          <template #default="{ row }: { row: Line }">{{ row.kind ? thingWords(row.kind) : '' }}</template>
        </el-table-column>
        <el-table-column prop="label" label="Label" min-width="150" />
        <el-table-column label="What becomes of it" min-width="220">
          <template #default="{ row }: { row: Line }">
            <b v-if="row.becomes === 'bad'">{{ row.problem }}</b>
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
        >Add {{ count }}</el-button
      >
    </template>
  </el-dialog>
</template>
