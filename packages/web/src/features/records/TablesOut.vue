<script setup lang="ts">
import {
  ARCHIVE_PATHS,
  type AttemptListFilter,
  CSV_PATHS,
  CSV_TABLE_NAMES,
  CSV_TABLES,
  type CsvTableName,
  type DecimalMark,
  STATEMENTS_PATH,
} from '@clear-mark/contract';
import { ref } from 'vue';
import { pathOf } from '../../api/client.ts';
import { useSession } from '../../session/session.ts';

/** The tables of a class as CSV, by the filter of the records, and what else is taken out of a class. */
const props = defineProps<{ classId: string; filter: AttemptListFilter }>();
const session = useSession();
const decimal = ref<DecimalMark>(new Intl.NumberFormat().format(1.5).includes(',') ? 'comma' : 'point');
const MARKS = [
  { value: 'point', label: '1.5' },
  { value: 'comma', label: '1,5' },
];
const NAMES: Readonly<Record<CsvTableName, string>> = {
  attempts: 'Attempts',
  outcomes: 'Outcomes',
  entries: 'Entries',
  readings: 'Readings',
  standings: 'Standings',
  stock: 'Equipment',
};
const addressOf = (table: CsvTableName): string =>
  pathOf(CSV_PATHS[table], { id: props.classId }, { ...props.filter, decimal: decimal.value });
</script>

<template>
  <el-popover trigger="click" placement="bottom-end" :width="400" :persistent="false">
    <template #reference>
      <el-button size="large">Take out</el-button>
    </template>
    <div class="field">
      <span class="soft">Numbers are written</span>
      <el-segmented v-model="decimal" size="large" :options="MARKS" aria-label="Numbers are written" />
    </div>
    <ul>
      <li v-for="table in CSV_TABLE_NAMES" :key="table">
        <a class="act" :href="addressOf(table)" download>{{ NAMES[table] }} as CSV</a>
        <span class="soft small">a line: {{ CSV_TABLES[table].line }}</span>
      </li>
      <li>
        <a class="act" :href="pathOf(STATEMENTS_PATH, { id: classId })" download>Statements as JSON</a>
        <span class="soft small">xAPI: what was shown, for a store of learning records</span>
      </li>
      <li v-if="session.me?.role === 'lead'">
        <a class="act" :href="pathOf(ARCHIVE_PATHS.make, { id: classId })" download
          >The class as an archive</a
        >
        <span class="soft small">a ZIP for another school, taken in there under Classes</span>
      </li>
    </ul>
  </el-popover>
</template>

<style scoped>
.field {
  display: flex;
  align-items: center;
  gap: 12px;
}
ul {
  list-style: none;
  padding: 0;
  margin: 10px 0 0;
}
li {
  display: grid;
  padding: 2px 0;
}
</style>
