<script setup lang="ts">
import type { LossSample, ResultFilter } from '@clear-mark/contract';
import { spreadSourceWords } from '@clear-mark/words';
import { computed, defineAsyncComponent } from 'vue';
import { useRouter } from 'vue-router';
import { ROUTES } from '../../../api/client.ts';
import { useReply } from '../../../api/queries.ts';
import { boundWords, lookOf, type SeriesPoint } from './series.model.ts';
import { momentWords } from '../../../shared/time-words.ts';

const props = defineProps<{ classId: string; sample: LossSample; filter: ResultFilter }>();
const LossTimeChart = defineAsyncComponent(() => import('./LossTimeChart.vue'));
const router = useRouter();
const query = computed(() => ({
  ...props.filter,
  method: props.sample.methodId,
  reference: props.sample.referenceMethod,
  fiber: props.sample.fiberClass,
  wavelength: props.sample.wavelengthNm,
  ...(props.sample.direction === '' ? {} : { direction: props.sample.direction }),
}));
const { found: series, failure } = useReply(ROUTES.lossSeries, () => ({
  params: { id: props.classId },
  query: query.value as never,
}));
const looks = computed(() => series.value?.points.map((p) => lookOf(p, series.value!)) ?? []);
const LOOK_WORDS: Readonly<Record<string, string>> = { out: 'outside', run: 'ends a run' };
interface Line {
  row: { at: number; p: SeriesPoint; told: string };
}
const lines = computed<Line['row'][]>(
  () => series.value?.points.map((p, at) => ({ at, p, told: LOOK_WORDS[looks.value[at]!] ?? '' })) ?? [],
);
const told = computed(() => looks.value.filter((look) => look !== 'plain').length);
const sheetOf = (p: SeriesPoint) => ({
  name: 'sheet',
  params: { classId: props.classId, attemptId: p.attemptId },
});
const when = (iso: string): string => momentWords(iso, 'full');
</script>

<template>
  <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
  <template v-if="series">
    <LossTimeChart
      :series="series"
      :name="`Losses at ${sample.wavelengthNm} nm`"
      @open="router.push(sheetOf($event))"
    />
    <p v-if="!series.chart" class="soft">One reading makes no chart: it takes two.</p>
    <p v-if="series.points.length < series.n" class="soft small">
      The newest {{ series.points.length }} of {{ series.n }}.
    </p>
    <ul class="said" data-test="apart">
      <li v-for="words in spreadSourceWords(series)" :key="words">{{ words }}</li>
      <li v-if="boundWords(series)">{{ boundWords(series) }}</li>
    </ul>
    <details>
      <summary>{{ told }} of {{ series.points.length }} stand out; all as a table</summary>
      <p class="soft small">
        Expected: mean ± 3 mean moving range / 1.128 (individuals chart). A diamond lies beyond it on the
        worse side; a square ends a run by the rules of Western Electric (1956). Shares by restricted maximum
        likelihood, their intervals 95 %; a tap on a point opens its piece.
      </p>
      <el-table :data="lines" max-height="320" scrollbar-tabindex="0" row-key="at">
        <el-table-column prop="p.startedAt" label="When" min-width="180" sortable>
          <template #default="{ row: { p } }: Line"
            ><RouterLink :to="sheetOf(p)">{{ when(p.startedAt) }}</RouterLink></template
          >
        </el-table-column>
        <el-table-column prop="p.traineeName" label="Trainee" min-width="150" sortable />
        <el-table-column prop="p.db" label="dB" align="right" width="100" sortable>
          <template #default="{ row: { p } }: Line">{{ p.db.toFixed(3) }}</template>
        </el-table-column>
        <el-table-column prop="told" label="Stands out" width="150" sortable />
      </el-table>
    </details>
  </template>
</template>

<style scoped>
.said {
  display: grid;
  gap: 6px;
  margin: 8px 0 10px;
  padding: 0;
  list-style: none;
}
</style>
