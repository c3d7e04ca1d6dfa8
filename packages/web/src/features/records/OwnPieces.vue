<script setup lang="ts">
import { skillsOf } from '@clear-mark/core';
import type { AttemptRow } from '@clear-mark/contract';
import { skillInText } from '@clear-mark/words';
import { computed, ref } from 'vue';
import VerdictRing from '../../shared/VerdictRing.vue';
import { lossText, startedText } from './records.model.ts';

/** A trainee's own pieces, the newest first; each says what went wrong in which skill, and leads to its sheet. */
const props = defineProps<{ rows: readonly AttemptRow[] }>();
const FIRST = 12;
const all = ref(false);
const shown = computed(() => (all.value ? props.rows : props.rows.slice(0, FIRST)));
const wrong = (row: AttemptRow): string =>
  skillsOf(row.skills)
    .filter((s) => row.skills[s] === 'fail' || row.skills[s] === 'marginal_fail')
    .map((s) => skillInText(s))
    .join(', ');
</script>

<template>
  <section class="section">
    <h2>My pieces</h2>
    <p v-if="rows.length === 0" class="soft">No piece yet. Start one at the bench above.</p>
    <ol>
      <li v-for="row in shown" :key="row.attemptId">
        <RouterLink class="piece" :to="{ name: 'own-sheet', params: { attemptId: row.attemptId } }">
          <VerdictRing v-if="row.state === 'signed'" :verdict="row.verdict" :size="28" />
          <span v-else class="open-mark" aria-hidden="true" />
          <span>
            <b>{{ row.pieceLabel }}</b> {{ row.methodTitle }}
            <span class="small soft when">{{ startedText(row) }}</span>
            <span v-if="row.state !== 'signed'" class="small">still open</span>
            <span v-if="wrong(row) !== ''" class="small">failed in {{ wrong(row) }}</span>
            <span v-if="row.reason" class="small soft">{{ row.reason }}</span>
          </span>
          <span class="losses">
            <span v-for="l in row.losses" :key="l.wavelengthNm"
              ><span class="small soft">{{ l.wavelengthNm }} nm</span> {{ lossText(l.lossDb)
              }}<span v-if="l.lossDb !== null" class="unit"> dB</span></span
            >
          </span>
        </RouterLink>
      </li>
    </ol>
    <el-button v-if="rows.length > FIRST" size="large" text @click="all = !all">
      {{ all ? 'Show fewer' : `Show all ${rows.length}` }}
    </el-button>
  </section>
</template>

<style scoped>
ol {
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
}
li {
  border-top: 1px solid var(--hair);
}
.piece {
  display: grid;
  grid-template-columns: 28px minmax(0, 1fr) auto;
  gap: 12px;
  align-items: center;
  min-height: 56px;
  padding: 6px 0;
  color: var(--ink);
  text-decoration: none;
}
.piece:hover {
  background: var(--sunk);
}
.piece .small {
  display: block;
}
.losses {
  display: grid;
  text-align: right;
  white-space: nowrap;
}
.open-mark {
  width: 22px;
  height: 22px;
  border: 2px dotted var(--ink-soft);
  border-radius: 50%;
}
@media (max-width: 500px) {
  .losses {
    grid-column: 2;
    text-align: left;
    display: flex;
    flex-wrap: wrap;
    gap: 0 14px;
  }
}
</style>
