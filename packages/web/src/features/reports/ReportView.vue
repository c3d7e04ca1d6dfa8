<script setup lang="ts">
import { type Report, svgAddress } from '@clear-mark/paper';

/** A report to be read on the page and printed from it: the same description that the PDF is made of. */
defineProps<{ report: Report }>();
interface Row {
  row: readonly string[];
}
</script>

<template>
  <article class="report">
    <header>
      <h1>{{ report.title }}</h1>
      <p v-for="fact in report.facts" :key="fact" class="soft">{{ fact }}</p>
      <p v-if="report.code">
        <b>{{ report.code.text }}</b>
      </p>
    </header>
    <section v-for="section in report.sections" :key="section.heading">
      <h2>{{ section.heading }}</h2>
      <template v-for="(block, i) in section.blocks" :key="i">
        <p v-if="block.kind === 'text'" :class="{ soft: block.soft }">{{ block.text }}</p>
        <ul v-else-if="block.kind === 'list'">
          <li v-for="item in block.items" :key="item">{{ item }}</li>
        </ul>
        <figure v-else-if="block.kind === 'drawing'" class="drawing">
          <img :src="svgAddress(block.svg)" :alt="block.words" />
          <figcaption class="soft small">{{ block.words }}</figcaption>
        </figure>
        <div v-else-if="block.kind === 'pictures'" class="pictures">
          <figure v-for="p in block.pictures" :key="p.src">
            <img :src="p.src" :alt="p.words" />
            <figcaption class="small">{{ p.words }}</figcaption>
          </figure>
        </div>
        <el-table v-else :data="block.rows as string[][]" :border="false">
          <el-table-column
            v-for="(head, column) in block.heads"
            :key="head"
            :label="head"
            :align="block.numbers.includes(column) ? 'right' : 'left'"
            :min-width="Math.round(block.weights[column]! * 40)"
          >
            <template #default="{ row }: Row">{{ row[column] }}</template>
          </el-table-column>
        </el-table>
      </template>
    </section>
  </article>
</template>

<style scoped>
.report {
  max-width: 1000px;
  background: var(--sheet);
  border: 1px solid var(--hair);
  border-radius: var(--round);
  padding: 24px 28px;
}
section {
  margin-top: 18px;
}
h2 {
  margin-bottom: 4px;
}
ul {
  margin: 4px 0;
  padding-left: 20px;
}
figure {
  margin: 0;
}
.drawing img {
  width: min(100%, 760px);
  height: auto;
  padding: 8px;
  background: #fff;
  border: 1px solid var(--hair);
  border-radius: var(--round);
}
.pictures {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(200px, 1fr));
  gap: 12px;
  margin-top: 6px;
}
.pictures img {
  width: 100%;
  height: auto;
  background: #000;
}
@media print {
  .report {
    max-width: none;
    border: 0;
    padding: 0;
  }
  section {
    break-inside: avoid-page;
  }
}
</style>
