<script setup lang="ts">
import { type AttemptOrder, AttemptListFilter, type AttemptRow, CSV_PATHS } from '@clear-mark/contract';
import { computed, ref, shallowRef, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { pathOf, ROUTES } from '../../api/client.ts';
import { useReply } from '../../api/queries.ts';
import { download, tableCsv } from '../../charts/chart-file.ts';
import { deviceSettings } from '../../storage/device-settings.ts';
import { filterWords } from './attempt-table.model.ts';
import RecordDrawer from './RecordDrawer.vue';
import RecordsFilter from './RecordsFilter.vue';
import RecordsTable from './RecordsTable.vue';
import { COLUMNS, columnsSeen, nextOrder, recordsTable } from './records.model.ts';
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
const words = computed(() =>
  filterWords(filter.value, {
    trainee: detail.value?.trainees.find((t) => t.id === filter.value.trainee)?.name ?? null,
    thing: detail.value?.things.find((t) => t.id === filter.value.thing)?.label ?? null,
    criterion: query.value['criterionLabel'] ?? null,
  }),
);
const csv = computed(() => ({
  attempts: pathOf(CSV_PATHS.attempts, { id: props.classId }, filter.value),
  outcomes: pathOf(CSV_PATHS.outcomes, { id: props.classId }, filter.value),
}));

const KEPT_AS = 'records-columns';
const seen = ref(columnsSeen(deviceSettings.read(KEPT_AS)));
watch(seen, (now) => deviceSettings.write(KEPT_AS, now.join(' ')));
function order(column: AttemptOrder): void {
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
      <div>
        <h1>Records</h1>
        <p>
          {{ words }}
          <RouterLink v-if="narrowed" :to="{ query: {} }">show all</RouterLink>
        </p>
      </div>
      <div class="row">
        <el-popover trigger="click" placement="bottom-end" :width="220">
          <template #reference><el-button size="large">Columns</el-button></template>
          <el-checkbox-group v-model="seen" class="columns">
            <el-checkbox
              v-for="c in COLUMNS.filter((each) => !each.fixed)"
              :key="c.key"
              :value="c.key"
              :label="c.label"
            />
          </el-checkbox-group>
        </el-popover>
        <a class="act" :href="csv.attempts" download>Attempts as CSV</a>
        <a class="act" :href="csv.outcomes" download>Outcomes as CSV</a>
      </div>
    </div>
    <RecordsFilter :filter="filter" :detail="detail" />
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
        <el-button size="large" text @click="chosen = new Map()">Choose none</el-button>
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
        :sort="filter.sort ?? 'started'"
        :up="filter.up === 'yes'"
        :chosen="chosen"
        @look="records.look"
        @sort="order"
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
}
.list {
  flex: 1;
  min-height: 320px;
}
.columns {
  display: grid;
}
</style>
