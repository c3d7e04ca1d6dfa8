<script setup lang="ts">
import { type CriterionOutcome, isLossPart, type LossCriterion, rowSpread } from '@clear-mark/core';
import { rowSpreadWords } from '@clear-mark/words';
import { computed } from 'vue';
import { termsOf } from '../../shared/limit-words.ts';

/** How the fibers of a row differ, and which stand apart by more than the uncertainty of a reading. */
const props = defineProps<{ criterion: LossCriterion; outcome: CriterionOutcome }>();

/** With two fibers the range says what the two readings say. */
const FEWEST = 3;
const spreads = computed(() => {
  const read = props.outcome.parts
    .filter(isLossPart)
    .flatMap(({ part, lossDb, verdict }) =>
      lossDb === null || verdict === 'void' ? [] : [{ part, lossDb }],
    );
  const { uncertaintyDb } = termsOf(props.criterion, props.criterion.wavelengthsNm[0]!);
  return rowSpread(read, uncertaintyDb).filter((s) => s.fibers >= FEWEST);
});
</script>

<template>
  <ul v-if="spreads.length > 0" data-test="row-spread">
    <li
      v-for="s in spreads"
      :key="`${s.wavelengthNm} ${s.direction}`"
      :class="{ apart: s.outliers.length > 0 }"
    >
      {{ rowSpreadWords(s) }}
    </li>
  </ul>
</template>

<style scoped>
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
.apart {
  font-weight: 700;
}
</style>
