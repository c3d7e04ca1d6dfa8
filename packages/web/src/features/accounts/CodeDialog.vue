<script setup lang="ts">
import { type GivenCode, MailCodeBody, ROUTES } from '@clear-mark/contract';
import { useClipboard } from '@vueuse/core';
import { computed, ref } from 'vue';
import { request } from '../../api/client.ts';
import CheckedForm from '../../shared/CheckedForm.vue';
import QrCode from '../../shared/QrCode.vue';
import TextField from '../../shared/TextField.vue';
import { momentWords } from '../../shared/time-words.ts';
import { useForm } from '../../shared/use-form.ts';
import { joinAddress } from './accounts.model.ts';

/** A code that was just made: it is shown once, to be read out, scanned, or sent on. */
const props = defineProps<{ id: string; name: string; given: GivenCode }>();
const emit = defineEmits<{ close: [] }>();
const address = computed(() => joinAddress(location.origin, props.given.code));
const form = useForm(MailCodeBody.omit({ code: true }), { to: '' }, { 'mail.refused': 'to' });
const { values, refused, failure, busy, send } = form;
const sentTo = ref<string | null>(null);
async function mail(): Promise<void> {
  sentTo.value = null;
  await send(async ({ to }) => {
    const body = { code: props.given.code, to };
    await request(ROUTES.mailCode, { params: { id: props.id }, body });
    sentTo.value = to;
  });
}
const { copy, copied } = useClipboard({ source: address, legacy: true });
</script>

<template>
  <el-dialog
    model-value
    :title="`Code for ${name}`"
    width="min(560px, 94vw)"
    align-center
    data-test="code-dialog"
    @close="emit('close')"
  >
    <p>
      {{ name }} opens this address, or types the code where one signs in, and chooses a password. It is shown
      this once and holds until {{ momentWords(given.until, 'full') }}.
    </p>
    <div class="code">
      <QrCode :text="address" label="The address as a code to scan" />
      <b data-test="code">{{ given.code }}</b>
    </div>
    <p class="soft address">{{ address }}</p>
    <CheckedForm v-if="given.mail" :of="form" class="mail" @send="mail">
      <TextField
        v-model="values.to"
        prop="to"
        label="Or have it sent by mail; the address is not kept"
        name="mail-to"
        type="email"
        autocomplete="off"
        :refused="refused['to']"
      />
      <el-button size="large" native-type="submit" :loading="busy">Send the mail</el-button>
    </CheckedForm>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <p v-if="sentTo" class="notice" role="status">The mail server took the mail to {{ sentTo }}.</p>
    <template #footer>
      <el-button size="large" @click="copy()">{{ copied ? 'Copied' : 'Copy the address' }}</el-button>
      <el-button size="large" type="primary" @click="emit('close')">Done</el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
.code {
  display: flex;
  align-items: center;
  gap: 24px;
  margin: 16px 0;
}
.code b {
  font-size: 1.5rem;
  white-space: nowrap;
  letter-spacing: 0.04em;
}
.mail {
  display: flex;
  gap: 12px;
  align-items: flex-start;
  margin-top: 14px;
}
.mail > .el-form-item {
  flex: 1;
}
.mail > .el-button {
  margin-top: 30px;
}
.address {
  overflow-wrap: anywhere;
}
@media (max-width: 560px) {
  .code {
    flex-direction: column;
  }
}
</style>
