<script setup lang="ts">
import { percent, skillWords } from '@clear-mark/words';
import { skillsInOrder } from '@clear-mark/core';
import type { ResultFilter, Split } from '@clear-mark/contract';
import { computed } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { ROUTES } from '../../../api/client.ts';
import { useReply } from '../../../api/queries.ts';
import { useOwnNames } from '../../../shared/own-names.ts';
import RateBar from '../RateBar.vue';
import type { RecordsLink } from '../records-link.ts';

const props = defineProps<{ classId: string; filter: ResultFilter; link: RecordsLink }>();
const route = useRoute();
const router = useRouter();
const own = useOwnNames();
const offered = computed(() => [...own.things([]), { value: 'day', label: 'Day' }]);
const by = computed(() => offered.value.find((o) => o.value === route.query['by'])?.value ?? 'cleaver');
const label = computed(() => offered.value.find((o) => o.value === by.value)?.label ?? '');
const { found: split, failure } = useReply(ROUTES.split, () => ({
  params: { id: props.classId },
  query: { ...props.filter, by: by.value } as never,
}));
const skills = computed(() =>
  skillsInOrder(split.value?.rows.flatMap((r) => r.skills.map((s) => s.skill)) ?? []),
);

interface Line {
  row: Split['rows'][number];
}
const cellOf = (row: Split['rows'][number], skill: string) => row.skills.find((s) => s.skill === skill);
const shareOf = (row: Split['rows'][number], skill: string): number => {
  const rate = cellOf(row, skill)?.rate;
  return rate?.kind === 'rate' ? rate.share : -1;
};
const linkOf = (row: Split['rows'][number], skill: string) =>
  props.link({
    skill,
    verdict: 'judged',
    ...(by.value === 'day' ? { from: row.key, to: row.key } : { thing: row.key }),
  });
</script>

<template>
  <div class="row" role="group" aria-label="Split by">
    <el-button
      v-for="o in offered"
      :key="o.value"
      size="large"
      :aria-pressed="by === o.value"
      @click="router.replace({ query: { ...route.query, by: o.value } })"
    >
      {{ o.label }}
    </el-button>
  </div>
  <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
  <p v-else-if="split && split.rows.length === 0" class="soft">
    No signed attempt names a {{ label.toLowerCase() }}. It is picked when a piece is started.
  </p>
  <el-table v-else-if="split" :data="[...split.rows]" row-key="key" data-test="split">
    <el-table-column prop="label" :label="label" min-width="150" fixed sortable>
      <template #default="{ row }: Line"
        ><span class="name" :data-split="row.label">{{ row.label }}</span></template
      >
    </el-table-column>
    <el-table-column
      v-for="s in skills"
      :key="s"
      :label="skillWords(s)"
      min-width="145"
      sortable
      :sort-by="(row: Line['row']) => shareOf(row, s)"
    >
      <template #default="{ row }: Line">
        <RouterLink v-if="cellOf(row, s)" class="cell" :data-skill="s" :to="linkOf(row, s)">
          <template v-if="cellOf(row, s)!.rate.kind === 'rate'">
            <span class="line">
              <b>{{ percent((cellOf(row, s)!.rate as { share: number }).share) }}</b>
              <span class="small soft">{{ (cellOf(row, s)!.rate as { n: number }).n }}</span>
              <span v-if="cellOf(row, s)!.signal" class="apart" :class="cellOf(row, s)!.signal">{{
                cellOf(row, s)!.signal === 'worse' ? 'worse than the rest' : 'better than the rest'
              }}</span>
            </span>
            <RateBar :rate="cellOf(row, s)!.rate" />
          </template>
          <span v-else class="soft">none yet</span>
        </RouterLink>
      </template>
    </el-table-column>
  </el-table>
  <p class="soft small">
    Marked where Fisher’s exact test against the others of the same skill, adjusted by Holm over the whole
    table, is at most 0.05: with nothing but chance at work, one table in twenty would carry a mark.
  </p>
</template>

<style scoped>
.cell {
  display: block;
  min-height: var(--tap);
  color: var(--ink);
  text-decoration: none;
}
.line {
  display: flex;
  flex-wrap: wrap;
  gap: 0 8px;
  align-items: baseline;
}
.line > *,
.name {
  white-space: nowrap;
}
.apart {
  font-size: 0.875rem;
  font-weight: 700;
  text-decoration: underline;
  text-decoration-thickness: 2px;
  text-underline-offset: 3px;
}
</style>
