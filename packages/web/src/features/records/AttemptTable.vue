<script setup lang="ts">
import { SKILLS } from '@clear-mark/core';
import type { AttemptRow } from '@clear-mark/contract';
import { SKILL_WORDS } from '@clear-mark/words';
import { computed } from 'vue';
import type { RouteLocationRaw } from 'vue-router';
import VerdictRing from '../../shared/VerdictRing.vue';

const props = defineProps<{
  rows: readonly AttemptRow[];
  to: (row: AttemptRow) => RouteLocationRaw;
  withTrainee: boolean;
}>();
const skills = computed(() => SKILLS.filter((s) => props.rows.some((r) => r.skills[s] !== undefined)));
const when = (iso: string): string =>
  new Date(iso).toLocaleString([], { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });
</script>

<template>
  <div class="scroll">
    <table class="plain">
      <thead>
        <tr>
          <th>Attempt</th>
          <th>Method</th>
          <th>Started</th>
          <th>Whole</th>
          <th v-for="s in skills" :key="s">{{ SKILL_WORDS[s] }}</th>
          <th class="n">Loss, dB</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="row.attemptId">
          <td>
            <RouterLink class="open" :to="to(row)"
              ><b v-if="withTrainee">{{ row.traineeName }}</b> {{ row.pieceLabel }}</RouterLink
            >
            <span v-if="row.reason" class="small soft reason">{{ row.reason }}</span>
          </td>
          <td class="small method">{{ row.methodTitle }}</td>
          <td class="soft when">{{ when(row.startedAt) }}</td>
          <td>
            <VerdictRing v-if="row.state === 'signed'" :verdict="row.verdict" word :size="22" /><span
              v-else
              class="soft"
              >open</span
            >
          </td>
          <td v-for="s in skills" :key="s">
            <VerdictRing v-if="row.skills[s]" :verdict="row.skills[s]!" :share="0" :size="22" />
          </td>
          <td class="n">
            <span v-for="l in row.losses" :key="l.wavelengthNm" class="reading"
              ><span class="small soft">{{ l.wavelengthNm }}</span>
              {{ l.lossDb === null ? 'none' : l.lossDb.toFixed(2) }}</span
            >
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}
.open {
  display: inline-flex;
  gap: 6px;
  align-items: center;
  min-height: var(--tap);
  color: var(--ink);
}
.reason {
  display: block;
}
.method {
  max-width: 210px;
  line-height: 1.25;
}
.when {
  white-space: nowrap;
}
.reading {
  display: inline-block;
  margin-left: 14px;
  white-space: nowrap;
}
td {
  padding-top: 2px !important;
  padding-bottom: 2px !important;
}
</style>
