<script setup lang="ts">
import { type AttemptOrder, AttemptListFilter, type AttemptRow } from '@clear-mark/contract';
import { computed, ref, shallowRef, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { ROUTES } from '../../api/client.ts';
import { useReply } from '../../api/queries.ts';
import { tableCsv } from '../../charts/chart-file.ts';
import { download } from '../../shared/save-file.ts';
import FilterChips from '../../shared/FilterChips.vue';
import { moved } from '../../shared/moved.ts';
import OrderedList from '../../shared/OrderedList.vue';
import { useResultFilter } from '../../shared/use-result-filter.ts';
import { deviceSettings } from '../../storage/device-settings.ts';
import RecordDrawer from './RecordDrawer.vue';
import { useOwnNames } from '../../shared/own-names.ts';
import RecordsFilter from './RecordsFilter.vue';
import RecordsTable from './RecordsTable.vue';
import TablesOut from './TablesOut.vue';
import { columnsInOrder, columnsSeen, columnTurned, nextOrder, recordsTable } from './records.model.ts';
import { useRecords } from './use-records.ts';

const props = defineProps<{ classId: string }>();
const route = useRoute();
const router = useRouter();
const filter = computed(() => {
  const parsed = AttemptListFilter.safeParse(route.query);
  return parsed.success ? parsed.data : {};
});
const records = useRecords(
  () => props.classId,
  () => filter.value,
);
const { total, lines, failure } = records;
const { found: detail } = useReply(ROUTES.classDetail, () => ({ params: { id: props.classId } }));
const query = computed(() => route.query as Record<string, string>);
const narrowed = computed(() => Object.keys(query.value).some((k) => k !== 'sort' && k !== 'up'));
const { chipsOf, clear } = useResultFilter(() => detail.value);
const chips = computed(() => chipsOf(filter.value));
const { ownSkills } = useOwnNames();

const KEPT_AS = 'records-columns';
const seen = ref(columnsSeen(deviceSettings.read(KEPT_AS)));
watch(seen, (now) => deviceSettings.write(KEPT_AS, now.join(' ')));
/** Those that are seen first, in their order, then the others. */
const order = computed(() => columnsInOrder(seen.value, ownSkills.value));
const move = (from: number, to: number): void => {
  const keys = moved(order.value, from, to).map((c) => c.key);
  seen.value = keys.filter((key) => seen.value.includes(key));
};
function sortBy(column: AttemptOrder): void {
  const { sort: _, up: __, skip: ___, ...rest } = query.value;
  void router.replace({ query: { ...rest, ...nextOrder(filter.value, column) } });
}

/** By the attempt’s id; a choice outlives scrolling and another filter. */
const chosen = shallowRef<ReadonlyMap<string, AttemptRow>>(new Map());
function choose(row: AttemptRow): void {
  const next = new Map(chosen.value);
  if (!next.delete(row.attemptId)) next.set(row.attemptId, row);
  chosen.value = next;
}
function saveChosen(): void {
  const text = tableCsv(recordsTable([...chosen.value.values()]));
  download('records.csv', new Blob([text], { type: 'text/csv;charset=utf-8' }));
}
const shown = shallowRef<AttemptRow | null>(null);
</script>

<template>
  <div class="page records">
    <div class="row spread">
      <h1>Records</h1>
      <div class="row">
        <el-popover trigger="click" placement="bottom-end" :width="320">
          <template #reference><el-button size="large">Columns</el-button></template>
          <OrderedList :items="order" label="Columns of the list" @move="move">
            <template #default="{ item }">
              <el-checkbox
                :model-value="seen.includes(item.key)"
                :label="item.label"
                @change="seen = columnTurned(seen, item.key)"
              />
            </template>
          </OrderedList>
        </el-popover>
        <RouterLink class="act" :to="{ name: 'reports', params: { classId } }">Reports</RouterLink>
        <TablesOut :class-id="classId" :filter="filter" />
      </div>
    </div>
    <RecordsFilter :filter="filter" :detail="detail" :own-skills="ownSkills" />
    <FilterChips :chips="chips" @clear="clear" @all="router.replace({ query: {} })" />
    <p v-if="failure" class="notice bad" role="alert">
      {{ failure }} <el-button size="large" @click="records.again">Try again</el-button>
    </p>
    <div class="row told">
      <p class="soft" data-test="total">
        <template v-if="total !== null">{{ total }} {{ total === 1 ? 'attempt' : 'attempts' }}</template>
      </p>
      <template v-if="chosen.size > 0">
        <b>{{ chosen.size }} chosen</b>
        <el-button size="large" @click="saveChosen">Save the chosen as CSV</el-button>
        <el-button size="large" text @click="chosen = new Map()">Clear selection</el-button>
      </template>
    </div>
    <el-skeleton v-if="total === null && !failure" :rows="8" animated />
    <p v-else-if="total === 0 && narrowed" class="soft">
      Nothing fits these filters. <RouterLink :to="{ query: {} }">Show all records</RouterLink>
    </p>
    <p v-else-if="total === 0" class="soft">
      Nothing is signed here yet. A sheet is signed at its bench, under Today.
    </p>
    <div v-else-if="total !== null" class="list">
      <RecordsTable
        :lines="lines"
        :seen="seen"
        :own-skills="ownSkills"
        :sort="filter.sort ?? 'started'"
        :up="filter.up === 'yes'"
        :chosen="chosen"
        @look="records.look"
        @sort="sortBy"
        @open="shown = $event"
        @choose="choose"
      />
    </div>
    <RecordDrawer v-if="shown" :class-id="classId" :row="shown" @close="shown = null" />
  </div>
</template>

<style scoped>
.records {
  height: 100%;
  display: flex;
  flex-direction: column;
  padding-bottom: 12px;
}
.told {
  min-height: var(--tap);
  margin-top: 6px;
}
.list {
  flex: 1;
  min-height: 320px;
}
</style>
