<script
  setup
  lang="ts"
  generic="Column extends string, L extends { number: number; becomes: string; problem: string | null }"
>
import { computed } from 'vue';
import CsvFileField from './CsvFileField.vue';
import type { OpenCsv } from './use-csv-file.ts';

/**
 * A file that is looked through line by line before it is taken, all of it or nothing. The columns of its table stand in the
 * slot; `act` is what stands where more than words is to be said of a line.
 */
const props = defineProps<{
  title: string;
  of: OpenCsv<Column>;
  columns: readonly { readonly value: Column; readonly label: string }[];
  lines: readonly L[];
  /** What becomes of a line, in words; a bad one says its problem. */
  becomes: Readonly<Record<string, string>>;
  /** How many lines are taken, and what the button says. */
  count: number;
  add: string;
  failure: string | null;
  busy: boolean;
}>();
const emit = defineEmits<{ close: []; take: [] }>();
const { file } = props.of;
const bad = computed(() => props.lines.filter((l) => l.becomes === 'bad').length);
</script>

<template>
  <el-dialog
    model-value
    :title="title"
    width="min(860px, 96vw)"
    align-center
    data-test="csv-file"
    @close="emit('close')"
  >
    <slot name="intro" />
    <CsvFileField :of="of" :columns="columns" />
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <template v-if="file">
      <el-table :data="lines as L[]" row-key="number" max-height="360" scrollbar-tabindex="0">
        <el-table-column prop="number" label="Line" width="70" align="right" />
        <slot />
        <el-table-column label="What becomes of it" min-width="300">
          <template #default="{ row }: { row: L }">
            <b v-if="row.becomes === 'bad'">{{ row.problem }}</b>
            <slot v-else name="act" :line="row">{{ becomes[row.becomes] }}</slot>
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
      <el-button
        size="large"
        type="primary"
        :disabled="count === 0 || bad > 0"
        :loading="busy"
        @click="emit('take')"
        >{{ add }}</el-button
      >
    </template>
  </el-dialog>
</template>
