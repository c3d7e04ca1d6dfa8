<script setup lang="ts">
import {
  acrossWavelengths,
  DomainError,
  linkBetweenCords,
  pulseMetres,
  traceGroups,
  traceDifference,
  tracesFromBothEnds,
} from '@clear-mark/core';
import type { TraceRow } from '@clear-mark/contract';
import { errorWords } from '@clear-mark/words';
import { isErrorCode } from '@clear-mark/contract';
import { computed, ref } from 'vue';
import { usePreferences } from '../../../../shell/preferences.ts';
import type { ShownTrace } from './shown-trace.ts';
import TraceChart from './TraceChart.vue';
import { placeWords } from './trace-view.model.ts';

/** What several traces say together: from both ends, at several wavelengths, and what they differ by. */
const props = defineProps<{ traces: readonly ShownTrace[]; rows: readonly TraceRow[] }>();
const preferences = usePreferences();
const place = (m: number): string => placeWords(m, preferences.distanceUnit);
const withinM = computed(() => Math.max(2, ...props.traces.map(({ trace }) => pulseMetres(trace))));
/** Where the link lies on each of two traces; null where the cords of one are not known: then the whole fibers are laid on each other. */
function rangesOf(...indices: [a: number, b: number]) {
  const [a, b] = indices.map((i) => {
    const { launchM, receiveM } = props.rows[i]!;
    return linkBetweenCords(props.traces[i]!.analysis!, launchM, receiveM);
  });
  return a && b ? { a, b } : null;
}
const both = computed(() => {
  const a = props.rows.findIndex(
    (r) =>
      r.direction === 'a_b' &&
      props.rows.some((o) => o.direction === 'b_a' && o.wavelengthNm === r.wavelengthNm),
  );
  const b = props.rows.findIndex(
    (r) => r.direction === 'b_a' && r.wavelengthNm === props.rows[a]?.wavelengthNm,
  );
  if (a < 0 || b < 0) return null;
  try {
    return {
      found: tracesFromBothEnds(
        props.traces[a]!.analysis!,
        props.traces[b]!.analysis!,
        withinM.value,
        rangesOf(a, b),
      ),
    };
  } catch (error) {
    if (error instanceof DomainError && isErrorCode(error.code))
      return { problem: errorWords(error.code, error.params) };
    throw error;
  }
});
const byWavelength = computed(() =>
  [...props.traces].sort((a, b) => a.trace.wavelengthNm - b.trace.wavelengthNm),
);
const across = computed(() => {
  const lengths = new Set(props.rows.map((r) => Math.round(r.wavelengthNm)));
  const oneWay = new Set(props.rows.map((r) => r.direction)).size === 1;
  if (lengths.size < 2 || !oneWay) return null;
  const places = acrossWavelengths(
    byWavelength.value.map((t) => ({ wavelengthNm: t.trace.wavelengthNm, analysis: t.analysis! })),
    withinM.value,
  );
  return places.map((p) => ({ ...p, lossesDb: [...p.lossesDb] }));
});
type Across = NonNullable<typeof across.value>[number];
type Both = NonNullable<NonNullable<typeof both.value>['found']>['events'][number];
const saidOf = ({ gainer, seenFrom }: Both): string =>
  gainer
    ? ', a gain from one end'
    : seenFrom === 'both'
      ? ''
      : `, hidden from ${seenFrom === 'a' ? 'B' : 'A'}`;
const isDifferenceShown = ref(false);
const differences = computed((): ShownTrace[] =>
  props.traces.slice(1).map((t) => {
    const trace = traceDifference(t.trace, props.traces[0]!.trace);
    return { key: t.key, label: t.label, trace, groups: traceGroups(trace), analysis: null };
  }),
);
</script>

<template>
  <section v-if="both" class="section" data-test="both-ends">
    <h2>From both ends</h2>
    <p v-if="'problem' in both" class="notice bad">{{ both.problem }}</p>
    <template v-else-if="both.found">
      <p class="soft">
        The mean of both is what an event loses. What one end shows more and the other less is the glass, and
        no loss.
      </p>
      <el-table :data="[...both.found.events]" row-key="positionM" size="large">
        <el-table-column label="At" width="110" align="right"
          ><template #default="{ row }: { row: Both }">{{ place(row.positionM) }}</template></el-table-column
        >
        <el-table-column label="From A, dB" width="120" align="right"
          ><template #default="{ row }: { row: Both }">{{ row.fromA.toFixed(3) }}</template></el-table-column
        >
        <el-table-column label="From B, dB" width="120" align="right"
          ><template #default="{ row }: { row: Both }">{{ row.fromB.toFixed(3) }}</template></el-table-column
        >
        <el-table-column label="Loss, dB (k = 2)" width="170" align="right"
          ><template #default="{ row }: { row: Both }"
            ><b>{{ row.lossDb.toFixed(3) }}</b> ± {{ Math.max(0.001, 2 * row.uLossDb).toFixed(3) }}</template
          ></el-table-column
        >
        <el-table-column label="Mismatch" min-width="220"
          ><template #default="{ row }: { row: Both }"
            >{{ Math.abs(row.fieldStepDb).toFixed(3) }} dB{{ saidOf(row) }}</template
          ></el-table-column
        >
      </el-table>
      <p v-if="both.found.onlyFromA.length > 0" class="small">
        Seen from A only, at {{ both.found.onlyFromA.map(place).join(', ') }}.
      </p>
      <p v-if="both.found.onlyFromB.length > 0" class="small">
        Seen from B only, at {{ both.found.onlyFromB.map(place).join(', ') }} from A.
      </p>
    </template>
  </section>
  <section v-if="across" class="section" data-test="wavelengths">
    <h2>At several wavelengths</h2>
    <el-table :data="across" row-key="positionM" size="large" empty-text="No event to compare.">
      <el-table-column label="At" width="110" align="right"
        ><template #default="{ row }: { row: Across }">{{ place(row.positionM) }}</template></el-table-column
      >
      <el-table-column
        v-for="(t, i) in byWavelength"
        :key="t.key"
        :label="`${Math.round(t.trace.wavelengthNm)} nm, dB`"
        width="130"
        align="right"
      >
        <template #default="{ row }: { row: Across }">{{
          row.lossesDb[i] === null ? '–' : row.lossesDb[i]!.toFixed(3)
        }}</template>
      </el-table-column>
      <el-table-column label="What it says" min-width="220"
        ><template #default="{ row }: { row: Across }">{{
          row.bend ? 'grows with the wavelength: the fiber is bent here' : ''
        }}</template></el-table-column
      >
    </el-table>
  </section>
  <section class="section">
    <el-checkbox v-model="isDifferenceShown" size="large"
      >Differences from {{ traces[0]!.label }}</el-checkbox
    >
    <TraceChart
      v-if="isDifferenceShown"
      :traces="differences"
      :events="[]"
      :markers="null"
      :marks="[]"
      :marking="false"
      label="Difference of traces"
    />
  </section>
</template>
