<script setup lang="ts">
import { Password, SecondFactorCode } from '@clear-mark/contract';
import { ref } from 'vue';
import { z } from 'zod';
import { request, ROUTES } from '../../api/client.ts';
import CheckedForm from '../../shared/CheckedForm.vue';
import QrCode from '../../shared/QrCode.vue';
import { useForm } from '../../shared/use-form.ts';
import TextField from '../../shared/TextField.vue';

/** The second factor: set up by a code of an authenticator, taken away by the password. */
const props = defineProps<{ on: boolean; required: boolean; recoveryCodesLeft: number }>();
const emit = defineEmits<{ changed: [] }>();
const asking = useForm(
  z.object({ password: Password }),
  { password: '' },
  { 'auth.bad_credentials': 'password' },
);
const proving = useForm(
  z.object({ code: SecondFactorCode }),
  { code: '' },
  { 'auth.bad_second_factor': 'code' },
);
const begun = ref<{ secret: string; address: string } | null>(null);
const recovery = ref<string[] | null>(null);

async function begin(): Promise<void> {
  const done = await asking.send(async (body) => {
    if (props.on) await request(ROUTES.dropOwnSecondFactor, { body });
    else begun.value = await request(ROUTES.beginSecondFactor, { body });
  });
  if (!done) return;
  asking.reset({ password: '' });
  if (props.on) emit('changed');
}
async function prove(): Promise<void> {
  const done = await proving.send(async (body) => {
    ({ recoveryCodes: recovery.value } = await request(ROUTES.confirmSecondFactor, { body }));
  });
  if (!done) return;
  begun.value = null;
  proving.reset({ code: '' });
  emit('changed');
}
</script>

<template>
  <section class="section" data-test="second-factor">
    <h2>Second factor</h2>
    <p>
      <template v-if="on">
        Signing in asks for a code of your authenticator as well. {{ recoveryCodesLeft }} recovery codes are
        left.
      </template>
      <template v-else-if="required">
        Leads need one in this school: nothing else opens until it is set up.
      </template>
      <template v-else>Signing in asks for the password alone.</template>
    </p>
    <div v-if="recovery" class="notice" role="status">
      <p><b>Write these down now:</b> each lets you in once when the phone is not there.</p>
      <p class="codes">
        <code v-for="code in recovery" :key="code">{{ code }}</code>
      </p>
    </div>
    <CheckedForm v-if="begun" :of="proving" class="form" @send="prove">
      <p>Scan this with an authenticator on your phone, or type the key into it.</p>
      <QrCode :text="begun.address" label="The key, to be scanned by an authenticator" />
      <p class="codes">
        <code data-test="secret">{{ begun.secret.match(/.{1,4}/g)!.join(' ') }}</code>
      </p>
      <TextField
        v-model="proving.values.code"
        prop="code"
        label="The six digits that it shows"
        :refused="proving.refused['code']"
        name="factor-code"
        inputmode="numeric"
        autocomplete="one-time-code"
      />
      <el-button size="large" type="primary" native-type="submit" :loading="proving.busy.value"
        >Turn it on</el-button
      >
    </CheckedForm>
    <CheckedForm v-else-if="!on || !required" :of="asking" class="form" @send="begin">
      <TextField
        v-model="asking.values.password"
        prop="password"
        label="Your password"
        :refused="asking.refused['password']"
        name="factor-password"
        type="password"
        autocomplete="current-password"
      />
      <el-button size="large" native-type="submit" :loading="asking.busy.value">{{
        on ? 'Take it away' : 'Set it up'
      }}</el-button>
    </CheckedForm>
    <p v-if="asking.failure.value ?? proving.failure.value" class="notice bad" role="alert">
      {{ asking.failure.value ?? proving.failure.value }}
    </p>
  </section>
</template>

<style scoped>
.form {
  display: grid;
  gap: 10px;
  justify-items: start;
  max-width: 420px;
  margin-top: 8px;
}
.form :deep(.el-form-item) {
  width: 100%;
}
.codes {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 18px;
  font-size: 1.125rem;
}
</style>
