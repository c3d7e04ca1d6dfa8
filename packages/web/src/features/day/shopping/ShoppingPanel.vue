<script setup lang="ts">
import type { CourseMethod, CourseMethodBody } from '@clear-mark/contract';
import type { ShoppingLine } from '@clear-mark/core';
import { computed, ref } from 'vue';
import { request, ROUTES } from '../../../api/client.ts';
import { useAct, useReply } from '../../../api/queries.ts';
import NumberField from '../../../shared/NumberField.vue';
import { download } from '../../../shared/save-file.ts';
import { itemOf, itemWords } from '../stock/stock.model.ts';
import MethodWorkDialog from './MethodWorkDialog.vue';
import { linesFor, piecesLeft, shoppingCsv } from './shopping.model.ts';

/** The course of a class, in good pieces by method, and what to buy for it: what fails on the way counted in, what is there taken off. */
const props = defineProps<{ classId: string }>();
const params = computed(() => ({ id: props.classId }));
const { found: stock, failure: noStock } = useReply(ROUTES.stock, () => ({ params: params.value }));
const { found: detail } = useReply(ROUTES.classDetail, () => ({ params: params.value }));
const { found: course, failure: noCourse, again } = useReply(ROUTES.course, () => ({ params: params.value }));
const acts = useAct();
const failure = computed(() => acts.failure.value ?? noStock.value ?? noCourse.value);
const trainees = computed(() => (detail.value?.trainees ?? []).map((t) => t.id));
const others = ref<number | null>(null);
const forHowMany = computed(() => others.value ?? trainees.value.length);
const left = (m: CourseMethod): number => piecesLeft(m, trainees.value, forHowMany.value);
const lines = computed(() => (stock.value && course.value ? linesFor(course.value, left, stock.value) : []));
/** What the course asks for first, then by title. */
const methods = computed(() =>
  [...(course.value ?? [])].sort((a, b) => Number((b.pieces ?? 0) > 0) - Number((a.pieces ?? 0) > 0)),
);
const items = computed(() => stock.value?.items ?? []);
const changedId = ref<string | null>(null);
const changed = computed(() => course.value?.find((m) => m.methodId === changedId.value) ?? null);

async function set(m: CourseMethod, next: Partial<CourseMethodBody>): Promise<void> {
  const body: CourseMethodBody = {
    methodId: m.methodId,
    pieces: m.pieces,
    work: m.isOwnWork ? m.work : null,
    ...next,
  };
  const isDone = await acts.act(() => request(ROUTES.setCourseMethod, { params: params.value, body }));
  if (isDone) await again();
}
const rate = (m: CourseMethod): string =>
  m.passed + m.failed === 0
    ? 'nobody has made one yet: taken as the others'
    : `${Math.round((100 * m.passed) / (m.passed + m.failed))} % of ${m.passed + m.failed} passed`;
const takes = (m: CourseMethod): string => {
  const words = Object.entries(m.work.items).map(
    ([item, uses]) => `${uses === 1 ? '' : `${uses} × `}${itemWords(items.value, item)}`,
  );
  return words.length === 0 ? 'nothing that is counted' : words.join(', ');
};
const print = (): void => window.print();
const save = (): void =>
  download('shopping-list.csv', new Blob([shoppingCsv(lines.value, items.value)], { type: 'text/csv' }));
</script>

<template>
  <section class="section">
    <div class="row spread">
      <div>
        <h1>Course and shopping list</h1>
        <p class="soft">
          How many good pieces each trainee makes in the course, and what has to be bought for it; what fails
          on the way is counted in.
        </p>
      </div>
      <div class="row tools">
        <el-button size="large" :disabled="lines.length === 0" data-test="shopping-csv" @click="save"
          >Save as CSV</el-button
        >
        <el-button size="large" :disabled="lines.length === 0" @click="print">Print</el-button>
      </div>
    </div>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <el-skeleton v-if="!(stock && course) && !failure" :rows="6" animated />
    <template v-if="course">
      <div class="tools for-how-many">
        <NumberField
          :model-value="forHowMany"
          label="Trainees"
          whole
          :min="1"
          :none="trainees.length || 1"
          :max="200"
          @change="others = $event === trainees.length ? null : $event"
        />
      </div>
      <el-table :data="methods" row-key="methodId" size="large" class="tools" data-test="course">
        <el-table-column label="Method" min-width="210">
          <template #default="{ row }: { row: CourseMethod }"
            ><b>{{ row.title }}</b> <span class="soft small block">{{ rate(row) }}</span></template
          >
        </el-table-column>
        <el-table-column label="Good pieces each" width="150">
          <template #default="{ row }: { row: CourseMethod }">
            <el-input-number
              class="each"
              size="large"
              :controls="false"
              :min="0"
              :max="200"
              :precision="0"
              :model-value="row.pieces ?? 0"
              :aria-label="`Good pieces each: ${row.title}`"
              @change="(n: number | undefined) => set(row, { pieces: n ?? 0 })"
            />
          </template>
        </el-table-column>
        <el-table-column label="Still to make" width="120" align="right">
          <template #default="{ row }: { row: CourseMethod }">{{ row.pieces ? left(row) : '' }}</template>
        </el-table-column>
        <el-table-column label="A piece takes" min-width="300">
          <template #default="{ row }: { row: CourseMethod }">
            <span class="small">{{ takes(row) }}</span>
            <span v-if="row.isOwnWork" class="soft small block">as this class said</span>
          </template>
        </el-table-column>
        <el-table-column width="130" align="right">
          <template #default="{ row }: { row: CourseMethod }">
            <el-button size="large" @click="changedId = row.methodId">Change</el-button>
          </template>
        </el-table-column>
      </el-table>
      <h2 class="buy">To buy</h2>
    </template>
    <el-table v-if="lines.length > 0" :data="lines" row-key="item" size="large" data-test="shopping">
      <el-table-column label="What" min-width="230">
        <template #default="{ row }: { row: ShoppingLine }"
          ><b>{{ itemWords(items, row.item) }}</b>
          <span class="soft small unit">{{ itemOf(items, row.item)?.unit }}</span></template
        >
      </el-table-column>
      <el-table-column prop="left" label="There" width="100" align="right" />
      <el-table-column prop="usual" label="Needed, middle" width="150" align="right" />
      <el-table-column prop="at80" label="8 in 10 times enough" width="180" align="right" />
      <el-table-column prop="at95" label="19 in 20 times enough" width="190" align="right" />
      <el-table-column label="Packs to buy" min-width="170" align="right">
        <template #default="{ row }: { row: ShoppingLine }">
          <b>{{ row.packs80 === row.packs95 ? row.packs80 : `${row.packs80} to ${row.packs95}` }}</b>
          <span class="soft small"> of {{ row.pack }}</span>
        </template>
      </el-table-column>
    </el-table>
    <p v-else-if="stock" class="soft">Say how many good pieces each trainee is to make.</p>
    <details>
      <summary>How this is worked out</summary>
      <p class="soft">
        Failures before the last wanted piece are negative binomial; the pass rate is that of all signed
        pieces of the method in this school, with Jeffreys’ prior, so that few pieces give a wide range (beta
        negative binomial). Each method by itself: the sum is on the safe side. Packs are rounded up after
        what is there and in date.
      </p>
    </details>
    <MethodWorkDialog
      v-if="changed"
      :key="changed.methodId"
      :method="changed"
      :items="items"
      :busy="acts.busy.value"
      :failure="acts.failure.value"
      @close="changedId = null"
      @set="
        async (work) => {
          await set(changed!, { work });
          if (!acts.failure.value) changedId = null;
        }
      "
    />
  </section>
</template>

<style scoped>
.unit {
  margin-left: 6px;
}
.block {
  display: block;
}
.for-how-many :deep(.el-form-item) {
  display: block;
  margin: 10px 0;
}
.each {
  width: 96px;
}
.buy {
  margin-top: 20px;
}
@media print {
  .tools,
  details {
    display: none;
  }
}
</style>
