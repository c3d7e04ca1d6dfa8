<script setup lang="ts">
import {
  type ClassDetail,
  contentOfTable,
  type SchoolTable,
  type SchoolTableContent,
} from '@clear-mark/contract';
import { v7 } from 'uuid';
import { shallowRef } from 'vue';
import { request, ROUTES } from '../../../api/client.ts';
import { useAct, useReply } from '../../../api/queries.ts';
import { copyTitle } from '../../../shared/copy-title.ts';
import { offerUndo } from '../../../shared/undo.ts';
import TableDialog from './TableDialog.vue';
import { KIND_WORDS, newDrill, newLossTable, saysOf, sourcesOf, type TableEdit } from './table-edit.model.ts';

/** Loss tables, drills, policies and zones of the school: copied, edited in versions, each with its source. */
defineProps<{ detail: ClassDetail }>();
const { found, failure, again } = useReply(ROUTES.schoolTables, () => ({}));
const { failure: notDone, act } = useAct();
const edit = shallowRef<TableEdit | null>(null);
interface Line {
  row: SchoolTable;
}
const begin = (table: SchoolTableContent): void => {
  edit.value = { id: v7(), from: 0, retired: false, table };
};
const open = (table: SchoolTable): void => {
  edit.value = { id: table.id, from: table.version, retired: table.retired, table: contentOfTable(table) };
};
const copy = (table: SchoolTable): void => {
  const copied = contentOfTable(table);
  begin({ ...copied, title: copyTitle(copied.title, 80) });
};
async function retire(table: SchoolTable, retired = !table.retired): Promise<void> {
  const body = { from: table.version, retired, table: contentOfTable(table) };
  let saved: SchoolTable | null = null;
  await act(async () => {
    saved = await request(ROUTES.saveSchoolTable, { params: { id: table.id }, body });
  });
  await again();
  if (saved) {
    const now: SchoolTable = saved;
    offerUndo(`${table.title} is ${retired ? 'out of use' : 'in use again'}.`, () => retire(now, !retired));
  }
}
async function saved(): Promise<void> {
  edit.value = null;
  await again();
}
</script>

<template>
  <section class="section" data-test="school-tables">
    <h2>Loss tables, drills, policies and zones of your own</h2>
    <p class="soft">
      A loss table serves links and the loss tests of methods, a drill the retraining plan, a policy the
      classes that take it, a table of zones the faces of those classes. Each save is a further version; what
      took an earlier one keeps it.
    </p>
    <p v-if="failure ?? notDone" class="notice bad" role="alert">{{ failure ?? notDone }}</p>
    <el-table v-if="found?.length" :data="[...found]" row-key="id">
      <el-table-column label="Name" min-width="210" sortable prop="title">
        <template #default="{ row }: Line"
          ><el-button text size="large" class="open" @click="open(row)">{{ row.title }}</el-button></template
        >
      </el-table-column>
      <el-table-column label="Kind" width="120" sortable prop="kind">
        <template #default="{ row }: Line">{{ KIND_WORDS[row.kind] }}</template>
      </el-table-column>
      <el-table-column label="What it says, and its source" min-width="320">
        <template #default="{ row }: Line"
          >{{ saysOf(contentOfTable(row)) }}
          <div class="small soft">{{ sourcesOf(contentOfTable(row)) }}</div></template
        >
      </el-table-column>
      <el-table-column prop="version" label="Version" width="96" align="right" />
      <el-table-column label="" width="250" align="right">
        <template #default="{ row }: Line">
          <div class="row acts">
            <el-button size="large" :aria-label="`Copy: ${row.title}`" @click="copy(row)">Copy</el-button>
            <el-button
              size="large"
              :aria-label="`${row.retired ? 'Use again' : 'Take out of use'}: ${row.title}`"
              @click="retire(row)"
              >{{ row.retired ? 'Use again' : 'Take out of use' }}</el-button
            >
          </div>
        </template>
      </el-table-column>
    </el-table>
    <div class="row begin">
      <el-button size="large" @click="begin(newLossTable('single_mode', 'Single-mode links'))"
        >New single-mode loss table</el-button
      >
      <el-button size="large" @click="begin(newLossTable('multimode', 'Multimode links'))"
        >New multimode loss table</el-button
      >
      <el-button size="large" @click="begin(newDrill('strip'))">New drill</el-button>
    </div>
    <TableDialog
      v-if="edit"
      :key="edit.id"
      :edit="edit"
      :detail="detail"
      @close="edit = null"
      @saved="saved"
    />
  </section>
</template>

<style scoped>
.begin {
  margin-top: 10px;
  flex-wrap: wrap;
}
.acts {
  justify-content: flex-end;
}
.open {
  padding: 0;
  white-space: normal;
  text-align: left;
  height: auto;
}
</style>
