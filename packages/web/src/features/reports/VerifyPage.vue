<script setup lang="ts">
import { CertificateCode, type CertificateState } from '@clear-mark/contract';
import { CERTIFICATE_STATE_WORDS } from '@clear-mark/words';
import { onMounted, ref } from 'vue';
import { z } from 'zod';
import { request, ROUTES } from '../../api/client.ts';
import CheckedForm from '../../shared/CheckedForm.vue';
import { useForm } from '../../shared/use-form.ts';

/** Whether a certificate holds, for anybody who has its code: that, and nothing else. */
const props = defineProps<{ code?: string }>();
const checked = useForm(
  z.object({ code: CertificateCode }),
  { code: props.code ?? '' },
  { 'not_found.certificate': 'code' },
);
const { values, refused, failure, busy, send } = checked;
const state = ref<CertificateState | null>(null);
const look = async (): Promise<void> => {
  state.value = null;
  await send(async (body) => {
    ({ state: state.value } = await request(ROUTES.verifyCertificate, { body }));
  });
};
onMounted(() => {
  if (values.code !== '') void look();
});
</script>

<template>
  <div class="verify">
    <h1>Does this certificate hold?</h1>
    <p v-if="state" class="answer" :data-state="state" role="status">
      <svg viewBox="0 0 48 48" width="56" height="56" aria-hidden="true">
        <circle cx="24" cy="24" r="17" fill="none" stroke="currentColor" stroke-width="5" />
        <path v-if="state === 'valid'" d="M16 24.5l5.5 5.5L32.5 18" />
        <path v-else-if="state === 'withdrawn'" d="M12 36 36 12" />
        <path v-else d="M24 15v11M24 31.5v1" />
      </svg>
      <b>{{ CERTIFICATE_STATE_WORDS[state] }}</b>
    </p>
    <CheckedForm :of="checked" class="form" @send="look">
      <el-form-item prop="code" label="Code on the certificate" :error="refused['code']">
        <el-input
          v-model="values.code"
          name="code"
          autocomplete="off"
          autocapitalize="characters"
          placeholder="XXXX-XXXX-XXXX"
        />
      </el-form-item>
      <el-button size="large" type="primary" class="wide" native-type="submit" :loading="busy"
        >Check it</el-button
      >
    </CheckedForm>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
  </div>
</template>

<style scoped>
.verify {
  max-width: 460px;
  margin: 12vh auto 0;
  padding: 24px;
  display: grid;
  gap: 16px;
}
.answer {
  display: flex;
  align-items: center;
  gap: 16px;
  font-size: 1.5rem;
}
.answer[data-state='valid'] {
  color: var(--pass);
}
.answer svg path {
  fill: none;
  stroke: currentColor;
  stroke-width: 4.5;
  stroke-linecap: round;
}
.wide {
  width: 100%;
  min-height: 60px;
  font-size: 1.125rem;
}
</style>
