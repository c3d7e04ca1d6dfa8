<script setup lang="ts">
import { type Direction, linkChanges, partKey, verdictOfMark } from '@clear-mark/core';
import type { LinkTestOfClass } from '@clear-mark/contract';
import { DIRECTION_WORDS, linkChangeWords } from '@clear-mark/words';
import { computed, ref, watch } from 'vue';
import { ROUTES } from '../../../api/client.ts';
import { useReply } from '../../../api/queries.ts';
import { useSession } from '../../../session/session.ts';
import { dayWords, timeOfDay } from '../../../shared/time-words.ts';
import VerdictRing from '../../../shared/VerdictRing.vue';

/** The signed tests of one link: two of them side by side, as before and after something was done to it. */
const props = defineProps<{ classId: string; linkId: string }>();
const session = useSession();
const { found: tests, failure } = useReply(ROUTES.linkTests, () => ({
  params: { id: props.classId, linkId: props.linkId },
}));
const beforeId = ref<string | null>(null);
const afterId = ref<string | null>(null);

/** The two newest, until others are chosen; a choice outlives a newer test, and ends with its link. */
const chosen = ref(false);
watch(
  () => props.linkId,
  () => (chosen.value = false),
);
watch(
  tests,
  (found) => {
    if (chosen.value) return;
    afterId.value = found?.[0]?.attemptId ?? null;
    beforeId.value = found?.[1]?.attemptId ?? null;
  },
  { immediate: true },
);

const nameOf = (t: LinkTestOfClass): string =>
  `${dayWords(t.at, session.zoneOf(props.classId), 'without')}, ${timeOfDay(t.at)}: ${t.traineeName}, ${t.pieceLabel}`;
const placesOf = (t: LinkTestOfClass) =>
  t.readings.map((r) => ({
    ...r,
    part: partKey({
      fiber: r.fiber,
      wavelengthNm: r.wavelengthNm,
      direction: r.direction as Direction | null,
    }),
  }));
const rows = computed(() => {
  const before = tests.value?.find((t) => t.attemptId === beforeId.value);
  const after = tests.value?.find((t) => t.attemptId === afterId.value);
  if (!before || !after) return [];
  const was = placesOf(before);
  const is = placesOf(after);
  return linkChanges(was, is, before.uncertaintyDb, after.uncertaintyDb).map((c) => {
    const reading = is.find((r) => r.part === c.part)!;
    return {
      ...c,
      place: [
        reading.fiber === null ? '' : `fiber ${reading.fiber}`,
        `${reading.wavelengthNm} nm`,
        reading.direction === null ? '' : DIRECTION_WORDS[reading.direction as Direction],
      ]
        .filter((x) => x !== '')
        .join(', '),
      verdict: verdictOfMark(reading.mark),
      words: linkChangeWords(c),
    };
  });
});
type Row = (typeof rows.value)[number];
const db = (x: number | null): string => (x === null ? 'no light' : x.toFixed(2));
</script>

<template>
  <section class="section" data-test="link-tests">
    <h2>Before and after</h2>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <el-skeleton v-else-if="tests === null" :rows="2" animated />
    <p v-else-if="tests.length === 0" class="soft">
      No signed test of this link yet. Start a loss test on it from Today; two tests show here side by side.
    </p>
    <p v-else-if="tests.length === 1" class="soft">
      One signed test so far: {{ nameOf(tests[0]!) }}. A second one shows what changed.
    </p>
    <template v-else>
      <div class="pair">
        <label class="field">
          <span>Before</span>
          <el-select v-model="beforeId" size="large" filterable @change="chosen = true">
            <el-option v-for="t in tests" :key="t.attemptId" :value="t.attemptId" :label="nameOf(t)" />
          </el-select>
        </label>
        <label class="field">
          <span>After</span>
          <el-select v-model="afterId" size="large" filterable @change="chosen = true">
            <el-option v-for="t in tests" :key="t.attemptId" :value="t.attemptId" :label="nameOf(t)" />
          </el-select>
        </label>
      </div>
      <el-table :data="rows" row-key="part" size="large" empty-text="The two have no reading in common.">
        <el-table-column prop="place" label="Reading" min-width="150" />
        <el-table-column label="Before, dB" width="120" align="right">
          <template #default="{ row }: { row: Row }">{{ db(row.beforeDb) }}</template>
        </el-table-column>
        <el-table-column label="After, dB" width="130" align="right">
          <template #default="{ row }: { row: Row }">
            <b>{{ db(row.afterDb) }}</b>
          </template>
        </el-table-column>
        <el-table-column width="60">
          <template #default="{ row }: { row: Row }"
            ><VerdictRing :verdict="row.verdict" :size="22"
          /></template>
        </el-table-column>
        <el-table-column prop="words" label="Change" min-width="260" />
      </el-table>
    </template>
  </section>
</template>

<style scoped>
.pair {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(260px, 1fr));
  gap: 14px;
  margin: 10px 0;
}
</style>
