<script setup lang="ts">
import { THING_KINDS } from '@clear-mark/core';
import type { ResultFilter, Split } from '@clear-mark/contract';
import { SKILL_WORDS, THING_WORDS } from '@clear-mark/words';
import { computed } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { ROUTES } from '../../../api/client.ts';
import { useReply } from '../../../api/queries.ts';
import { percent } from '../insight.model.ts';
import RateBar from '../RateBar.vue';
import type { RecordsLink } from '../records-link.ts';

const props = defineProps<{ classId: string; filter: ResultFilter; link: RecordsLink }>();
const route = useRoute();
const router = useRouter();
const OFFERED = [
  ...THING_KINDS.filter((k) =>
    ['bench', 'cleaver', 'scope', 'cord', 'instrument', 'film', 'batch', 'splicer'].includes(k),
  ),
  'day',
] as const;
const by = computed(() => (OFFERED.find((o) => o === route.query['by']) ?? 'cleaver') as string);
const { found: split, failure } = useReply(ROUTES.split, () => ({
  params: { id: props.classId },
  query: { ...props.filter, by: by.value } as never,
}));
const label = (key: string): string => (key === 'day' ? 'Day' : THING_WORDS[key as keyof typeof THING_WORDS]);
const skills = computed(() => {
  const there = new Set(split.value?.rows.flatMap((r) => r.skills.map((s) => s.skill)) ?? []);
  return (Object.keys(SKILL_WORDS) as (keyof typeof SKILL_WORDS)[]).filter((s) => there.has(s));
});

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
      v-for="o in OFFERED"
      :key="o"
      size="large"
      :aria-pressed="by === o"
      @click="router.replace({ query: { ...route.query, by: o } })"
    >
      {{ label(o) }}
    </el-button>
  </div>
  <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
  <p v-else-if="split && split.rows.length === 0" class="soft">
    No signed attempt names a {{ label(by).toLowerCase() }}. It is picked when a piece is started.
  </p>
  <el-table v-else-if="split" :data="[...split.rows]" row-key="key" data-test="split">
    <el-table-column prop="label" :label="label(by)" min-width="150" fixed sortable>
      <template #default="{ row }: Line"
        ><span class="name" :data-split="row.label">{{ row.label }}</span></template
      >
    </el-table-column>
    <el-table-column
      v-for="s in skills"
      :key="s"
      :label="SKILL_WORDS[s]"
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
  gap: 8px;
  align-items: baseline;
}
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
