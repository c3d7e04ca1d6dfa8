<script setup lang="ts">
import type { SkillEvidence } from '@clear-mark/contract';
import { chartLimits, competenceChart, dayIn, verdictOfMark, withVerdict } from '@clear-mark/core';
import { skillInText, VERDICT_WORDS } from '@clear-mark/words';
import { computed } from 'vue';
import { useChartLook } from '../../../charts/chart-look.ts';
import ChartView from '../../../charts/ChartView.vue';
import { dayWords } from '../../../shared/time-words.ts';
import { competenceOption } from './competence-option.ts';

/** The sequential chart of one trainee in one skill: learning up to competence, then watching for what gets worse. */
const props = defineProps<{ evidence: SkillEvidence; timeZone: string }>();
const emit = defineEmits<{ open: [attemptId: string] }>();
const look = useChartLook();
const judged = computed(() => props.evidence.outcomes.filter((o) => withVerdict(o.mark) !== ''));
const marks = computed(() => judged.value.map((o) => o.mark).join(''));
const limits = computed(() => chartLimits(props.evidence.policy));
const points = computed(() => {
  const { policy, competentFrom, signedOffAfter } = props.evidence;
  return competenceChart(marks.value, policy, competentFrom, signedOffAfter);
});
const title = computed(() => `${props.evidence.trainee.name}, ${skillInText(props.evidence.cell.skill)}`);
const day = (iso: string): string => dayWords(iso, props.timeZone, 'without');
const wordsOf = (i: number): string => VERDICT_WORDS[verdictOfMark(marks.value[i]!)];

const option = computed(() =>
  competenceOption(
    {
      points: points.value,
      limits: limits.value,
      dayAt: (i) => day(judged.value[i]!.startedAt),
      wordsAt: wordsOf,
    },
    look.value,
  ),
);
const table = computed(() => ({
  head: ['outcome', 'day', 'piece', 'verdict', 'chart', 'sum', 'limit', 'at the limit'],
  rows: points.value.map((p) => [
    p.at + 1,
    dayIn(props.timeZone, judged.value[p.at]!.startedAt),
    judged.value[p.at]!.pieceLabel,
    wordsOf(p.at),
    p.form === 'learning' ? 'learning' : 'getting worse',
    Math.round(p.sum * 1000) / 1000,
    Math.round(limits.value[p.form] * 1000) / 1000,
    p.signal ? 'yes' : '',
  ]),
}));
</script>

<template>
  <ChartView
    :option="option"
    :title="title"
    :label="`Sequential chart of ${title}, ${points.length} outcomes`"
    :table="table"
    @open="judged[$event.dataIndex] && emit('open', judged[$event.dataIndex]!.attemptId)"
  />
  <details>
    <summary>How this chart is read</summary>
    <p class="soft">
      Failures are diamonds. Up to competence the dashed chart of learning rises by ln((1 − p good) / (1 − p
      bad)) with a pass and falls by ln(p bad / p good) with a failure, never under 0 (LC-CUSUM, Biau &amp;
      Porcher 2010); at its limit of {{ limits.learning.toFixed(2) }} it shows competence. From then on the
      solid chart rises with failures (Page 1954); at {{ limits.deterioration.toFixed(2) }} it says that the
      work gets worse. {{ evidence.policy.passesInARow }} passes in a row, or a sign-off, begin it anew. The
      limits are worked out exactly, so that one who fails {{ evidence.policy.pBad }} of pieces is called
      competent falsely, and one who fails {{ evidence.policy.pGood }} called worse, once in
      {{ evidence.policy.falseSignalAfter }} pieces or later.
    </p>
  </details>
</template>
