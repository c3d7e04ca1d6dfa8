<script setup lang="ts">
import type { StockThing } from '@clear-mark/contract';
import { thingWords } from '@clear-mark/words';
import { v7 } from 'uuid';
import { computed, ref } from 'vue';
import { request, ROUTES } from '../../../api/client.ts';
import { useAct, useReply } from '../../../api/queries.ts';
import { dayWords } from '../../../shared/time-words.ts';
import ChoiceField from '../../../shared/ChoiceField.vue';
import { useSession } from '../../../session/session.ts';
import NewItemDialog from './NewItemDialog.vue';
import { itemOf, serviceOf, shareLeft, stockRows, unitOf, usualLot, WARNING_WORDS } from './stock.model.ts';
import StockThingDialog from './StockThingDialog.vue';

/** What is left, what expires and what falls due. Pieces count it down as they begin; a hand puts it right with a reason. */
const props = defineProps<{ classId: string }>();
const session = useSession();
const params = computed(() => ({ id: props.classId }));
const { found: stock, failure: unread, again } = useReply(ROUTES.stock, () => ({ params: params.value }));
const acts = useAct();
const failure = computed(() => acts.failure.value ?? unread.value);
const rows = computed(() => (stock.value ? stockRows(stock.value.things) : []));
const openId = ref<string | null>(null);
const opened = computed(() => stock.value?.things.find((t) => t.id === openId.value) ?? null);
const warned = computed(() => rows.value.filter((r) => r.warnings.length > 0).length);
const items = computed(() => stock.value?.items ?? []);
const item = ref('');
/** Of what a lot can be added: an item that was made a moment ago stands in the list a moment later. */
const lotOf = computed(() => itemOf(items.value, item.value));
const isNewItem = ref(false);
const label = ref('');

async function act(work: () => Promise<unknown>): Promise<boolean> {
  const isDone = await acts.act(work);
  if (isDone) await again();
  return isDone;
}
async function addLot(): Promise<void> {
  const id = v7();
  const of = lotOf.value;
  if (!of) return;
  const { kind, label: name } = of;
  const isDone = await act(async () => {
    const body = { id, kind, label: label.value.trim() === '' ? name : `${name}, ${label.value.trim()}` };
    await request(ROUTES.addThing, { params: params.value, body });
    await request(ROUTES.setThing, { params: { ...params.value, thingId: id }, body: usualLot(of) });
  });
  if (!isDone) return;
  label.value = '';
  openId.value = id;
}
const serviced = (thing: StockThing): Promise<boolean> =>
  act(() =>
    request(ROUTES.addThingEvent, {
      params: { ...params.value, thingId: thing.id },
      body: { id: v7(), act: 'serviced', left: null, reason: '' },
    }),
  );
const day = (at: string | null): string => (at === null ? '' : dayWords(at, session.zoneOf(props.classId)));
const until = (row: StockThing): string =>
  day(row.goodUntil) || (row.settings.dueOn ? `due ${day(row.settings.dueOn)}` : '');
const daysWords = (days: number): string =>
  days < 1 ? 'today' : days < 2 ? '1 day' : `${Math.floor(days)} days`;
const percent = (row: StockThing): number => Math.round((shareLeft(row) ?? 0) * 100);
</script>

<template>
  <section class="section">
    <div class="row spread">
      <div>
        <h1>Stock and equipment</h1>
        <p class="soft">
          {{ warned === 0 ? 'Nothing runs out, expires or is due.' : `${warned} to look at.` }} Counted down
          by each piece as it begins.
        </p>
      </div>
    </div>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <el-skeleton v-if="!stock && !failure" :rows="8" animated />
    <el-table v-if="stock" :data="rows" row-key="id" size="large" data-test="stock">
      <el-table-column label="What" min-width="245">
        <template #default="{ row }: { row: StockThing }">
          <b>{{ row.label }}</b> <span class="soft small">{{ thingWords(row.kind) }}</span>
        </template>
      </el-table-column>
      <el-table-column label="Left" width="215">
        <template #default="{ row }: { row: StockThing }">
          <div v-if="row.left !== null" class="left">
            <el-progress
              :percentage="percent(row)"
              :show-text="false"
              :stroke-width="8"
              :aria-label="`${percent(row)} % left`"
            />
            <span
              >{{ row.left }} of {{ row.settings.uses }} {{ unitOf(row, items)
              }}<template v-if="row.position !== null">
                at position {{ row.position }} of {{ row.settings.positions }}</template
              ></span
            >
          </div>
          <span v-else-if="row.kind === 'oven'" class="soft"
            >{{ row.settings.hanging ?? 0 }} hanging, {{ row.settings.flat ?? 0 }} flat<template
              v-if="(row.settings.trays ?? 1) > 1"
            >
              on each of {{ row.settings.trays }} trays</template
            ></span
          >
          <span v-else class="soft">not counted</span>
        </template>
      </el-table-column>
      <el-table-column label="Lasts" width="95" align="right">
        <template #default="{ row }: { row: StockThing }">{{
          row.lastsDays === null ? '' : row.lastsDays > 365 ? 'over a year' : daysWords(row.lastsDays)
        }}</template>
      </el-table-column>
      <el-table-column label="Good until" width="165">
        <template #default="{ row }: { row: StockThing }">{{ until(row) }}</template>
      </el-table-column>
      <el-table-column label="State" min-width="150">
        <template #default="{ row }: { row: StockThing }">
          <b v-for="w in row.warnings" :key="w" class="warn" :class="w">{{ WARNING_WORDS[w] }}</b>
          <span v-if="row.warnings.length === 0" class="soft">{{
            row.settings.item !== null && row.openedAt === null ? 'unopened' : 'good'
          }}</span>
        </template>
      </el-table-column>
      <el-table-column width="340" align="right">
        <template #default="{ row }: { row: StockThing }">
          <div class="acts">
            <el-button
              v-if="serviceOf(row.kind) && row.settings.uses !== null"
              size="large"
              @click="serviced(row)"
              >{{ serviceOf(row.kind) }}</el-button
            >
            <RouterLink
              v-if="row.kind === 'cord'"
              class="act"
              :to="{ name: 'setup', params: { classId }, query: { view: 'equipment' } }"
              >Check the cord</RouterLink
            >
            <el-button size="large" @click="openId = row.id">Change</el-button>
          </div>
        </template>
      </el-table-column>
    </el-table>
    <form class="row add" @submit.prevent="addLot">
      <ChoiceField
        v-model="item"
        label="A new lot of"
        :options="items.map((i) => ({ value: i.id, label: i.label }))"
        data-test="item"
      />
      <label class="field">
        <span class="soft">Batch or lot number</span>
        <el-input v-model="label" size="large" maxlength="20" data-test="lot-label" />
      </label>
      <el-button
        size="large"
        type="primary"
        native-type="submit"
        :disabled="!lotOf"
        :loading="acts.busy.value"
        >Add</el-button
      >
      <el-button size="large" data-test="new-item" @click="isNewItem = true">An item of our own</el-button>
    </form>
    <p class="soft small">
      Films, adhesives and parts as the methods use them; packs and days are starting values, to be set by the
      label. Adhesives and solvents: follow their safety data sheets and your local rules.
    </p>
    <StockThingDialog
      v-if="opened"
      :key="opened.id"
      :class-id="classId"
      :thing="opened"
      :items="items"
      @close="openId = null"
      @changed="again"
    />
    <NewItemDialog
      v-if="isNewItem"
      :class-id="classId"
      @close="isNewItem = false"
      @made="
        (id: string) => {
          item = id;
          void again();
        }
      "
    />
  </section>
</template>

<style scoped>
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  justify-content: flex-end;
}
.acts :deep(.el-button) {
  margin: 0;
}
.left {
  display: grid;
  gap: 2px;
}
.warn {
  display: inline-block;
  margin-right: 8px;
  color: var(--marginal);
}
.warn.expired,
.warn.used_up,
.warn.overdue {
  color: var(--fail);
}
.add {
  align-items: flex-end;
  margin-top: 14px;
}
</style>
