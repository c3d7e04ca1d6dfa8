<script setup lang="ts">
import { skillsOf } from '@clear-mark/core';
import type { AttemptRow } from '@clear-mark/contract';
import { skillWords } from '@clear-mark/words';
import { computed } from 'vue';
import VerdictRing from '../../shared/VerdictRing.vue';
import { lossText, startedText } from './records.model.ts';

/** One record beside the list: what came of it, and the way to its sheet. */
const props = defineProps<{ classId: string; row: AttemptRow }>();
const emit = defineEmits<{ close: [] }>();
const skills = computed(() => skillsOf(props.row.skills));
</script>

<template>
  <el-drawer
    :model-value="true"
    :title="`${row.traineeName}, ${row.pieceLabel}`"
    size="min(420px, 100vw)"
    :modal="false"
    modal-penetrable
    append-to-body
    data-test="record"
    @close="emit('close')"
  >
    <div class="row top">
      <VerdictRing :verdict="row.verdict" :size="56" />
      <div>
        <VerdictRing v-if="row.state === 'signed'" class="figure" :verdict="row.verdict" :size="0" word />
        <b v-else>Still open</b>
        <p class="soft">{{ row.methodTitle }}</p>
        <p class="soft">{{ startedText(row) }}</p>
      </div>
    </div>
    <p v-if="row.reason" class="notice">{{ row.reason }}</p>
    <el-descriptions :column="1" border class="facts">
      <el-descriptions-item v-for="s in skills" :key="s" :label="skillWords(s)">
        <VerdictRing :verdict="row.skills[s]!" :size="20" word />
      </el-descriptions-item>
      <el-descriptions-item
        v-for="l in row.losses"
        :key="l.wavelengthNm"
        :label="`Loss at ${l.wavelengthNm} nm`"
      >
        {{ lossText(l.lossDb) }}<span v-if="l.lossDb !== null" class="unit"> dB</span>
      </el-descriptions-item>
    </el-descriptions>
    <RouterLink class="act next" :to="{ name: 'sheet', params: { classId, attemptId: row.attemptId } }"
      >Open its sheet</RouterLink
    >
  </el-drawer>
</template>

<style scoped>
.top {
  flex-wrap: nowrap;
}
.facts {
  margin: 16px 0;
}
</style>
