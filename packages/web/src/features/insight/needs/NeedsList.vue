<script setup lang="ts">
import type { Results } from '@clear-mark/contract';
import { type EvidenceCode, piecesAhead } from '@clear-mark/core';
import { aheadWords, evidenceWords, skillInText, STANDING_WORDS } from '@clear-mark/words';
import { computed, ref } from 'vue';
import { needs } from '../insight.model.ts';
import type { RecordsLink } from '../records-link.ts';
import StandingMark from '../../../shared/StandingMark.vue';
import WindowMarks from '../../../shared/WindowMarks.vue';

const props = defineProps<{ classId: string; results: Results; wanted: number; link: RecordsLink }>();
const all = computed(() => needs(props.results));
const SHOWN = 6;
const wide = ref(false);
const shown = computed(() => (wide.value ? all.value : all.value.slice(0, SHOWN)));
</script>

<template>
  <p v-if="all.length === 0" class="soft">Nobody: no standing asks for retraining, and nobody is on watch.</p>
  <ul v-else class="needs">
    <li v-for="need in shown" :key="need.traineeId + need.cell.skill" :data-need="need.traineeName">
      <StandingMark :standing="need.cell.standing" />
      <div class="who">
        <RouterLink
          class="name"
          :to="{
            name: 'evidence',
            params: { classId, traineeId: need.traineeId, skill: need.cell.skill },
          }"
          >{{ need.traineeName }}: {{ skillInText(need.cell.skill) }}</RouterLink
        >
        <p>
          <b>{{ STANDING_WORDS[need.cell.standing] }}.</b>
          {{ evidenceWords(need.cell.evidence.code as EvidenceCode, need.cell.evidence.params) }}
          <template v-if="need.cell.behind">
            Most points went at “{{ need.cell.behind.stepTitle }}”:
            {{ need.cell.behind.label.toLowerCase() }} ({{ need.cell.behind.times }} of the last
            {{ need.cell.window.length }}).
          </template>
          {{
            need.cell.standing === 'lapsed' ? '' : aheadWords(piecesAhead(need.cell.window, wanted), wanted)
          }}
        </p>
      </div>
      <RouterLink
        class="pieces"
        :to="link({ trainee: need.traineeId, skill: need.cell.skill, verdict: 'judged', last: 10 })"
        :aria-label="`The last pieces of ${need.traineeName}`"
        ><WindowMarks :marks="need.cell.window"
      /></RouterLink>
    </li>
  </ul>
  <el-button v-if="all.length > SHOWN" size="large" text @click="wide = !wide">
    {{ wide ? 'Show fewer' : `Show all ${all.length}` }}
  </el-button>
  <details v-if="all.length > 0">
    <summary>How the further pieces are foretold</summary>
    <p class="soft">
      Expected pieces until {{ wanted }} pass in a row: (p^−r − p^−j) / (1 − p), r the passes wanted, j the
      present streak, p the share passed in the window; the range is the same at both ends of its 95 %
      interval (Wilson 1927). Nothing is foretold while nothing passed. The step behind a need is the
      criterion that cost most points in the failed pieces of the window.
    </p>
  </details>
</template>

<style scoped>
.needs {
  list-style: none;
  margin: 6px 0 0;
  padding: 0;
}
.needs li {
  display: grid;
  grid-template-columns: 34px minmax(0, 1fr) auto;
  gap: 12px;
  align-items: center;
  border-bottom: 1px solid var(--hair);
  padding: 8px 0;
}
.pieces {
  min-height: var(--tap);
  display: flex;
  align-items: center;
}
.name {
  font-weight: 700;
  font-size: 1.0625rem;
}
</style>
