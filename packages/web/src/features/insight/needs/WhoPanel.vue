<script setup lang="ts">
import type { Results } from '@clear-mark/contract';
import type { Policy } from '@clear-mark/core';
import { classSentences, skillInText, traineeSentences } from '@clear-mark/words';
import { useClipboard } from '@vueuse/core';
import { computed } from 'vue';
import NeedsList from './NeedsList.vue';
import type { RecordsLink } from '../records-link.ts';
import SkillRates from './SkillRates.vue';
import StandingTable from './StandingTable.vue';

const props = defineProps<{ classId: string; results: Results; policy: Policy; link: RecordsLink }>();
const ofClass = computed(() => classSentences(props.results).join(' '));
const ofTrainees = computed(() =>
  props.results.standings.map((s) => ({
    id: s.traineeId,
    words: traineeSentences(s.traineeName, s.cells, props.policy).join(' '),
  })),
);
const allReady = computed(() =>
  props.results.standings.filter(
    (s) => s.cells.length > 0 && s.cells.every((c) => c.standing === 'competent'),
  ),
);
const { copy, copied } = useClipboard({ copiedDuring: 4000, legacy: true });
const lines = computed(() => [ofClass.value, ...ofTrainees.value.map((t) => t.words)].join('\n'));
</script>

<template>
  <section class="section said">
    <p data-test="class-sentences">{{ ofClass }}</p>
    <details>
      <summary>Two sentences for each trainee, to read out or paste</summary>
      <ul>
        <li v-for="t in ofTrainees" :key="t.id">{{ t.words }}</li>
      </ul>
      <el-button size="large" @click="copy(lines)">Copy all</el-button>
      <span v-if="copied" class="soft" role="status"> Copied.</span>
    </details>
  </section>
  <section class="section">
    <h2>Who needs what again</h2>
    <NeedsList :class-id="classId" :results="results" :wanted="policy.passesInARow" :link="link" />
  </section>
  <section class="section">
    <h2>Ready to be signed off</h2>
    <p v-if="allReady.length === 0" class="soft">
      Nobody is competent in every skill that the class has tried. Single skills are in the rings below.
    </p>
    <ul v-else class="ready" data-test="ready">
      <li v-for="row in allReady" :key="row.traineeId">
        <b>{{ row.traineeName }}</b> in every skill tried:
        <template v-for="(cell, i) in row.cells" :key="cell.skill"
          >{{ i === 0 ? '' : ', '
          }}<RouterLink
            :to="{ name: 'evidence', params: { classId, traineeId: row.traineeId, skill: cell.skill } }"
            >{{ skillInText(cell.skill) }}</RouterLink
          ></template
        >
      </li>
    </ul>
  </section>
  <section class="section">
    <h2>Where everyone stands</h2>
    <StandingTable :class-id="classId" :results="results" :policy="policy" />
  </section>
  <section class="section">
    <h2>Pass rate of each skill</h2>
    <SkillRates :results="results" :link="link" />
  </section>
</template>

<style scoped>
.said {
  font-size: 1.125rem;
  padding-bottom: 4px;
}
.said > p,
.said li {
  max-width: 900px;
}
.said ul {
  padding-left: 18px;
  display: grid;
  gap: 8px;
  font-size: 1rem;
}
.ready {
  list-style: none;
  padding: 0;
  margin: 4px 0 0;
}
.ready li {
  padding: 6px 0;
  line-height: 1.7;
}
</style>
