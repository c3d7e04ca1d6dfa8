<script setup lang="ts">
import type { LossSample, ResultFilter } from '@clear-mark/contract';
import { DIRECTION_WORDS, REFERENCE_WORDS } from '@clear-mark/words';
import type { ReferenceMethod } from '@clear-mark/core';
import { computed, defineAsyncComponent } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { type Bar, barsOf } from '../insight.model.ts';
import { useClassroom } from '../../../classroom/use-classroom.ts';
import LossInTime from './LossInTime.vue';
import type { RecordsLink } from '../records-link.ts';

const props = defineProps<{
  classId: string;
  filter: ResultFilter;
  samples: readonly LossSample[];
  link: RecordsLink;
}>();
const LossChart = defineAsyncComponent(() => import('./LossChart.vue'));
const router = useRouter();
const route = useRoute();
const classroom = useClassroom();
const inTime = computed(() => route.query['loss'] === 'time');
function show(time: boolean): void {
  const { loss: _, ...rest } = route.query;
  void router.replace({ query: time ? { ...rest, loss: 'time' } : rest });
}
/** Which method it was read by; nothing where the class does not know it any more. */
const titleOf = (s: LossSample): string => {
  const title = classroom.detail?.methods.find((m) => m.methodId === s.methodId)?.title;
  return title === undefined ? '' : `${title}: `;
};
/** A sample is of one method at one wavelength in one direction. */
const reading = (s: LossSample) => ({
  method: s.methodId,
  wavelength: s.wavelengthNm,
  ...(s.direction === '' ? {} : { direction: s.direction }),
});
/** One of many is not none, and all but one is not all. */
function shareOver({ summary: { over, n } }: LossSample): string {
  const share = (100 * over) / n;
  if (over === 0 || over === n) return '';
  return share < 1 ? 'under 1 %' : share > 99 ? 'over 99 %' : `${Math.round(share)} %`;
}
const db = (x: number | null): string => (x === null ? 'none' : x.toFixed(3));
function open(sample: LossSample, bar: Bar): void {
  void router.push(props.link({ ...reading(sample), lossFrom: bar.from, lossTo: bar.to }));
}
</script>

<template>
  <p v-if="samples.length === 0" class="soft">
    No valid reading yet. Readings come with the loss step of a sheet.
  </p>
  <div v-else class="row views" role="group" aria-label="Losses shown">
    <el-button size="large" :aria-pressed="!inTime" @click="show(false)">Distribution</el-button>
    <el-button size="large" :aria-pressed="inTime" @click="show(true)">Over time</el-button>
  </div>
  <div class="samples">
    <article
      v-for="s in samples"
      :key="`${s.methodId} ${s.wavelengthNm} ${s.direction} ${s.limitDb}`"
      class="sample"
    >
      <h3>
        {{ s.wavelengthNm }} nm{{ s.direction === '' ? '' : `, ${DIRECTION_WORDS[s.direction]}` }}
        <span class="soft small"
          >{{ titleOf(s) }}{{ s.fiberClass }},
          {{ REFERENCE_WORDS[s.referenceMethod as ReferenceMethod] }}</span
        >
      </h3>
      <LossInTime v-if="inTime" :class-id="classId" :sample="s" :filter="filter" />
      <LossChart v-else :sample="s" @open="open(s, $event)" />
      <dl class="stats">
        <div>
          <dt>n</dt>
          <dd>
            <RouterLink :to="link({ ...reading(s) })">{{ s.summary.n }}</RouterLink>
          </dd>
        </div>
        <div>
          <dt>mean</dt>
          <dd>{{ db(s.summary.mean) }}</dd>
        </div>
        <div>
          <dt>SD</dt>
          <dd>{{ db(s.summary.sd) }}</dd>
        </div>
        <div>
          <dt>median</dt>
          <dd>{{ db(s.summary.median) }}</dd>
        </div>
        <div>
          <dt>95 % of readings under</dt>
          <dd>{{ db(s.summary.q95) }}</dd>
        </div>
        <div>
          <dt>over the limit {{ s.limitDb.toFixed(2) }}</dt>
          <dd>
            <RouterLink
              v-if="s.summary.over > 0"
              :to="link({ ...reading(s), lossFrom: s.limitDb + 0.000002 })"
              >{{ s.summary.over }}</RouterLink
            >
            <template v-else>0</template>
            <span class="soft small share">{{ shareOver(s) }}</span>
          </dd>
        </div>
        <div>
          <dt>void readings</dt>
          <dd>
            <RouterLink v-if="s.voidReadings > 0" :to="link({ ...reading(s), verdict: 'void' })">{{
              s.voidReadings
            }}</RouterLink>
            <template v-else>0</template>
          </dd>
        </div>
      </dl>
      <details v-if="!inTime">
        <summary>More figures, and the bars as a table</summary>
        <p class="soft small">
          MAD × 1.4826 {{ db(s.summary.mad) }}, quartiles {{ db(s.summary.q25) }} and
          {{ db(s.summary.q75) }} (type 7, Hyndman &amp; Fan 1996), least {{ db(s.summary.min) }}, most
          {{ db(s.summary.max) }}, skewness G1 {{ db(s.summary.skewness) }}, mean distance to the limit
          {{ db(s.summary.meanDistanceToLimitDb) }}, power mean {{ db(s.summary.powerMeanDb) }}; all in dB but
          the skewness. Samples of different wavelengths, methods or fiber classes are never put together.
        </p>
        <el-table :data="barsOf(s)" row-key="from" max-height="320" scrollbar-tabindex="0">
          <el-table-column label="From, dB">
            <template #default="{ row: bar }: { row: Bar }">{{ bar.from.toFixed(2) }}</template>
          </el-table-column>
          <el-table-column label="To under, dB">
            <template #default="{ row: bar }: { row: Bar }">{{ bar.to.toFixed(2) }}</template>
          </el-table-column>
          <el-table-column prop="count" label="Readings" align="right" />
        </el-table>
      </details>
    </article>
  </div>
</template>

<style scoped>
.views {
  margin-bottom: 12px;
}
.share {
  margin-left: 8px;
}
.samples {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(440px, 1fr));
  gap: 20px 40px;
}
.stats {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 22px;
  margin: 4px 0;
}
dt {
  font-size: 0.875rem;
  color: var(--ink-soft);
}
dd {
  margin: 0;
  font-size: 1.125rem;
  font-weight: 700;
}
@media (max-width: 800px) {
  .samples {
    grid-template-columns: 1fr;
  }
}
</style>
