<script setup lang="ts">
import { Password } from '@clear-mark/contract';
import { ref } from 'vue';
import { z } from 'zod';
import { request, ROUTES } from '../../api/client.ts';
import CheckedForm from '../../shared/CheckedForm.vue';
import { PASSWORD_REFUSALS } from '../../shared/password-refusals.ts';
import { useForm } from '../../shared/use-form.ts';
import TextField from '../../shared/TextField.vue';

/** The own password: the old one, and a new one. */
const checked = useForm(
  z.object({ current: Password, password: Password }),
  { current: '', password: '' },
  { 'auth.bad_credentials': 'current', ...PASSWORD_REFUSALS },
);
const { values, refused, failure, busy, send, reset } = checked;
const done = ref(false);
async function change(): Promise<void> {
  done.value = await send(({ current, password }) =>
    request(ROUTES.changeOwnPassword, { body: { current, next: password } }),
  );
  if (done.value) reset({ current: '', password: '' });
}
</script>

<template>
  <section class="section">
    <h2>Password</h2>
    <CheckedForm :of="checked" class="form" @send="change">
      <TextField
        v-model="values.current"
        prop="current"
        label="The one you have"
        :refused="refused['current']"
        name="current-password"
        type="password"
        autocomplete="current-password"
      />
      <TextField
        v-model="values.password"
        prop="password"
        label="A new one, at least 10 characters"
        :refused="refused['password']"
        name="new-password"
        type="password"
        autocomplete="new-password"
      />
      <el-button size="large" type="primary" native-type="submit" :loading="busy">Change it</el-button>
    </CheckedForm>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <p v-if="done" class="notice" role="status">Changed. On all other devices you are signed out.</p>
  </section>
</template>

<style scoped>
.form {
  max-width: 380px;
  margin-top: 8px;
}
</style>
