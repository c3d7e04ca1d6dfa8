<script setup lang="ts">
import { type Paper, PAPERS, lacksLetters, reportDocument } from '@clear-mark/paper';
import { computed, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { ROUTES } from '../../api/client.ts';
import { useAct, useReply } from '../../api/queries.ts';
import { download, fileName } from '../../shared/save-file.ts';
import { pdfOf } from '../../print/render-pdf.ts';
import ChoiceField from '../../shared/ChoiceField.vue';
import BatchPanel from './BatchPanel.vue';
import CertificatesPanel from './CertificatesPanel.vue';
import ReportView from './ReportView.vue';
import { type Subject, useReport } from './use-report.ts';

/** The report of the class, the record of a trainee, or one piece: read here, printed, saved as PDF. */
const props = defineProps<{ classId: string }>();
const route = useRoute();
const router = useRouter();
const { found: detail, failure: unread } = useReply(ROUTES.classDetail, () => ({
  params: { id: props.classId },
}));
const CLASS = 'class';
const subject = computed((): Subject => {
  const { attempt, of } = route.query;
  if (typeof attempt === 'string') return { kind: 'attempt', id: attempt };
  if (typeof of === 'string' && of !== CLASS) return { kind: 'trainee', id: of };
  return { kind: 'class' };
});
const { report, failure, certificates, results } = useReport(props.classId, subject, detail);
const traineeId = computed(() => (subject.value.kind === 'trainee' ? subject.value.id : null));
const competent = computed(() =>
  (results.found.value?.standings.find((s) => s.traineeId === traineeId.value)?.cells ?? [])
    .filter((c) => c.standing === 'competent')
    .map((c) => c.skill),
);
const paper = ref<Paper>('A4');
const papers = (Object.keys(PAPERS) as Paper[]).map((value) => ({ value, label: value }));
const options = computed(() => [
  { value: CLASS, label: 'The class' },
  ...(detail.value?.trainees ?? []).map((t) => ({ value: t.id, label: t.name })),
]);
const missing = computed(() => report.value !== null && lacksLetters(report.value.title));
const { failure: notSaved, busy, act } = useAct();
const save = (): Promise<boolean> =>
  act(async () => {
    const { title } = report.value!;
    download(fileName(title, 'pdf'), await pdfOf(reportDocument(report.value!, paper.value)));
  });
const print = (): void => window.print();
const choose = (of: string): void => void router.replace({ query: { of } });
</script>

<template>
  <div class="page">
    <div class="row bar">
      <ChoiceField
        v-if="subject.kind !== 'attempt'"
        label="Report of"
        :model-value="traineeId ?? CLASS"
        :options="options"
        @change="choose"
      />
      <RouterLink v-else class="act" :to="{ name: 'sheet', params: { classId, attemptId: subject.id } }"
        >Back to the sheet</RouterLink
      >
      <ChoiceField label="Paper" :model-value="paper" :options="papers" @change="(p) => (paper = p)" />
      <el-button size="large" type="primary" :disabled="report === null || busy" :loading="busy" @click="save"
        >Save as PDF</el-button
      >
      <el-button size="large" :disabled="report === null" @click="print">Print</el-button>
    </div>
    <p v-if="unread ?? failure ?? notSaved" class="notice bad" role="alert">
      {{ unread ?? failure ?? notSaved }}
    </p>
    <p v-if="missing" class="notice">
      The name has letters that the shipped typeface does not have: in the PDF they stand as “?”.
    </p>
    <BatchPanel v-if="subject.kind === 'class'" :class-id="classId" :paper="paper" />
    <CertificatesPanel
      v-if="detail && traineeId && certificates.found.value"
      :key="traineeId"
      :detail="detail"
      :trainee-id="traineeId"
      :certificates="certificates.found.value"
      :skills="competent"
      :paper="paper"
      @changed="certificates.again()"
    />
    <ReportView v-if="report" :report="report" />
    <el-skeleton v-else-if="!(unread ?? failure)" :rows="10" animated />
  </div>
</template>

<style scoped>
.bar {
  align-items: flex-end;
  flex-wrap: wrap;
  margin-bottom: 14px;
}
@media print {
  .bar {
    display: none;
  }
}
</style>
