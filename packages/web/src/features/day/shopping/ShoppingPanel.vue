<script setup lang="ts">
import type { ShoppingLine } from '@clear-mark/core';
import { stockItem, takesOf } from '@clear-mark/methods';
import { useLocalStorage } from '@vueuse/core';
import { computed } from 'vue';
import { ROUTES } from '../../../api/client.ts';
import { useReply } from '../../../api/queries.ts';
import NumberField from '../../../shared/NumberField.vue';
import { linesFor, shoppingCsv, type Wanted } from './shopping.model.ts';

/** What to buy for a course: good pieces that are wanted, what fails on the way, and what is there already. */
const props = defineProps<{ classId: string }>();
const { found: stock, failure } = useReply(ROUTES.stock, () => ({ params: { id: props.classId } }));
/** Kept on this device while the list is made. */
const wanted = useLocalStorage<Record<string, number>>(`clear-mark-shopping-${props.classId}`, {});
const methods = computed(() =>
  (stock.value?.methods ?? []).filter((m) => Object.keys(takesOf(m.methodId).items).length > 0),
);
const lines = computed(() => (stock.value ? linesFor(wanted.value as Wanted, stock.value) : []));
const rate = (m: { passed: number; failed: number }): string =>
  m.passed + m.failed === 0
    ? 'nobody has made one yet: taken as the others'
    : `${Math.round((100 * m.passed) / (m.passed + m.failed))} % of ${m.passed + m.failed} passed`;
const print = (): void => window.print();
function save(): void {
  const url = URL.createObjectURL(new Blob([shoppingCsv(lines.value)], { type: 'text/csv' }));
  const link = Object.assign(document.createElement('a'), { href: url, download: 'shopping-list.csv' });
  link.click();
  URL.revokeObjectURL(url);
}
</script>

<template>
  <section class="section">
    <div class="row spread">
      <div>
        <h1>Shopping list</h1>
        <p class="soft">
          How many good pieces the course is to end with; what fails on the way is counted in.
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
    <el-skeleton v-if="!stock && !failure" :rows="6" animated />
    <ul class="methods">
      <li v-for="m in methods" :key="m.methodId">
        <NumberField
          :model-value="wanted[m.methodId] ?? 0"
          :label="m.title"
          whole
          :max="2000"
          @change="wanted[m.methodId] = $event"
        />
        <span class="soft small">{{ rate(m) }}</span>
      </li>
    </ul>
    <el-table v-if="lines.length > 0" :data="lines" row-key="item" size="large" data-test="shopping">
      <el-table-column label="What" min-width="230">
        <template #default="{ row }: { row: ShoppingLine }"
          ><b>{{ stockItem(row.item)?.label }}</b>
          <span class="soft small unit">{{ stockItem(row.item)?.unit }}</span></template
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
    <p v-else-if="stock" class="soft">Say how many good pieces are wanted.</p>
    <details>
      <summary>How this is worked out</summary>
      <p class="soft">
        Failures before the last wanted piece are negative binomial; the pass rate is that of all signed
        pieces of the method in this school, with Jeffreys’ prior, so that few pieces give a wide range (beta
        negative binomial). Each method by itself: the sum is on the safe side. Packs are rounded up after
        what is there and in date.
      </p>
    </details>
  </section>
</template>

<style scoped>
.unit {
  margin-left: 6px;
}
.methods :deep(.el-form-item__label) {
  white-space: normal;
  height: auto;
  line-height: 1.3;
}
.methods {
  list-style: none;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(280px, 1fr));
  gap: 4px 18px;
}
.methods :deep(.el-form-item) {
  display: block;
  margin: 0;
}
@media print {
  .tools,
  .methods,
  details {
    display: none;
  }
}
</style>
