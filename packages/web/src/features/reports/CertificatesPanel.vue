<script setup lang="ts">
import type { Skill } from '@clear-mark/core';
import type { Certificate, ClassDetail } from '@clear-mark/contract';
import { type Paper, reportDocument } from '@clear-mark/paper';
import { CERTIFICATE_STATE_WORDS, skillWords } from '@clear-mark/words';
import { v7 } from 'uuid';
import { computed, ref } from 'vue';
import { request, ROUTES } from '../../api/client.ts';
import { useAct } from '../../api/queries.ts';
import { download, fileName } from '../../shared/save-file.ts';
import { pdfOf } from '../../print/render-pdf.ts';
import { useSession } from '../../session/session.ts';
import { dayText } from '../../shared/day-range.model.ts';
import { reportOfCertificate } from './reports.model.ts';

/** Certificates of a trainee: issued of skills that are signed off, saved as PDF, withdrawn. */
const props = defineProps<{
  detail: ClassDetail;
  traineeId: string;
  certificates: readonly Certificate[];
  /** What the trainee is competent in. */
  skills: readonly Skill[];
  paper: Paper;
}>();
const emit = defineEmits<{ changed: [] }>();
const session = useSession();
const { failure, busy, act } = useAct();
const isLead = computed(() => session.me?.role === 'lead');
const chosen = ref<Skill[]>([]);
const withdrawing = ref<Certificate | null>(null);
const reason = ref('');

const named = (c: Certificate): string => c.skills.map((s) => skillWords(s.skill)).join(', ');
async function issue(): Promise<void> {
  const body = { id: v7(), traineeId: props.traineeId, skills: chosen.value };
  if (!(await act(() => request(ROUTES.issueCertificate, { params: { id: props.detail.id }, body })))) return;
  chosen.value = [];
  emit('changed');
}
async function withdraw(): Promise<void> {
  const params = { id: props.detail.id, certificateId: withdrawing.value!.id };
  const body = { reason: reason.value.trim() };
  if (!(await act(() => request(ROUTES.withdrawCertificate, { params, body })))) return;
  withdrawing.value = null;
  reason.value = '';
  emit('changed');
}
const save = (certificate: Certificate): Promise<boolean> =>
  act(async () => {
    const report = reportOfCertificate(certificate, props.detail.timeZone, location.origin);
    download(fileName(report.title, 'pdf'), await pdfOf(reportDocument(report, props.paper)));
  });
</script>

<template>
  <section class="section certificates" data-test="certificates">
    <h2>Certificates</h2>
    <div v-if="isLead && skills.length > 0" class="row issue">
      <el-select
        v-model="chosen"
        size="large"
        multiple
        class="choose"
        aria-label="Skills to certify"
        placeholder="Skills that are signed off"
      >
        <el-option v-for="skill in skills" :key="skill" :value="skill" :label="skillWords(skill)" />
      </el-select>
      <el-button size="large" type="primary" :disabled="chosen.length === 0 || busy" @click="issue"
        >Issue a certificate</el-button
      >
    </div>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <el-table v-if="certificates.length > 0" :data="certificates as Certificate[]" row-key="id">
      <el-table-column label="Skills" min-width="220">
        <template #default="{ row }: { row: Certificate }">{{ named(row) }}</template>
      </el-table-column>
      <el-table-column prop="code" label="Code" width="170" />
      <el-table-column label="Holds until" width="140">
        <template #default="{ row }: { row: Certificate }">{{ dayText(row.validUntil) }}</template>
      </el-table-column>
      <el-table-column label="State" min-width="160">
        <template #default="{ row }: { row: Certificate }">
          <b :class="{ soft: row.state !== 'valid' }">{{ CERTIFICATE_STATE_WORDS[row.state] }}</b>
        </template>
      </el-table-column>
      <el-table-column width="250" align="right">
        <template #default="{ row }: { row: Certificate }">
          <div class="row acts">
            <el-button size="large" :aria-label="`Save as PDF: ${named(row)}`" @click="save(row)"
              >Save as PDF</el-button
            >
            <el-button
              v-if="isLead && row.state !== 'withdrawn'"
              size="large"
              :aria-label="`Withdraw: ${named(row)}`"
              @click="withdrawing = row"
              >Withdraw</el-button
            >
          </div>
        </template>
      </el-table-column>
    </el-table>
    <p v-else class="soft">None yet.</p>
    <el-dialog
      v-if="withdrawing"
      model-value
      title="Withdraw the certificate"
      width="min(520px, 94vw)"
      align-center
      @close="withdrawing = null"
    >
      <p>
        Whoever checks its code is told that it was withdrawn. That cannot be taken back: issue a new one
        instead.
      </p>
      <div class="field">
        <label class="soft" for="withdraw-reason">Why, for the school alone</label>
        <el-input id="withdraw-reason" v-model="reason" maxlength="400" />
      </div>
      <template #footer>
        <el-button size="large" @click="withdrawing = null">Keep it</el-button>
        <el-button size="large" type="danger" :disabled="reason.trim() === '' || busy" @click="withdraw"
          >Withdraw it</el-button
        >
      </template>
    </el-dialog>
  </section>
</template>

<style scoped>
.issue {
  margin: 6px 0 10px;
  flex-wrap: wrap;
}
.choose {
  width: min(100%, 420px);
}
.acts {
  justify-content: flex-end;
}
@media print {
  .certificates {
    display: none;
  }
}
</style>
