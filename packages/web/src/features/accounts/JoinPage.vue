<script setup lang="ts">
import { type Invitation, JoinBody, JoinCode, Login } from '@clear-mark/contract';
import { onMounted, ref, shallowRef } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { z } from 'zod';
import { request, ROUTES } from '../../api/client.ts';
import { useSession } from '../../session/session.ts';
import CheckedForm from '../../shared/CheckedForm.vue';
import { PASSWORD_REFUSALS } from '../../shared/password-refusals.ts';
import { useForm } from '../../shared/use-form.ts';
import { home } from '../../shell/home.ts';
import { codeIn } from './accounts.model.ts';
import TextField from '../../shared/TextField.vue';

/** Somebody with a code takes the account: chooses a sign-in name, where there is none yet, and a password. */
const session = useSession();
const route = useRoute();
const router = useRouter();
const asking = useForm(
  z.object({ code: JoinCode }),
  { code: codeIn(route.hash) },
  { 'account.bad_code': 'code' },
);
const joining = useForm(
  JoinBody.omit({ code: true }).extend({ login: Login }),
  { login: '', password: '' },
  { 'person.login_taken': 'login', ...PASSWORD_REFUSALS },
);
const invitation = shallowRef<Invitation | null>(null);
const code = ref('');
const look = (): Promise<boolean> =>
  asking.send(async (body) => {
    invitation.value = await request(ROUTES.lookAtCode, { body });
    code.value = body.code;
    joining.reset({ login: invitation.value.login ?? '' });
  });
onMounted(() => {
  if (asking.values.code !== '') void look();
});
const join = (): Promise<boolean> =>
  joining.send(async ({ login, password }) => {
    const body = { code: code.value, login: invitation.value?.login ? null : login, password };
    const person = await request(ROUTES.join, { body });
    await session.refresh();
    await router.push(person ? home(session) : { name: 'start' });
  });
</script>

<template>
  <div class="join">
    <template v-if="invitation">
      <h1>{{ invitation.name }}</h1>
      <p class="soft">
        {{
          invitation.login
            ? 'Choose a new password. On every device you are signed out.'
            : 'Choose how you sign in from now on.'
        }}
      </p>
      <CheckedForm :of="joining" class="form" @send="join">
        <TextField
          v-model="joining.values.login"
          prop="login"
          label="Sign-in name, small letters"
          :refused="joining.refused['login']"
          name="login"
          autocomplete="username"
          :disabled="invitation.login !== null"
        />
        <TextField
          v-model="joining.values.password"
          prop="password"
          label="Password, at least 10 characters"
          :refused="joining.refused['password']"
          name="password"
          type="password"
          autocomplete="new-password"
        />
        <el-button
          size="large"
          type="primary"
          class="wide"
          native-type="submit"
          :loading="joining.busy.value"
          >{{ invitation.login ? 'Set the password' : 'Begin' }}</el-button
        >
      </CheckedForm>
    </template>
    <template v-else>
      <h1>You have a code</h1>
      <p class="soft">The lead gave it to you: for a new account, or for a new password.</p>
      <CheckedForm :of="asking" class="form" @send="look">
        <TextField
          v-model="asking.values.code"
          prop="code"
          label="Code"
          :refused="asking.refused['code']"
          name="code"
          autocomplete="off"
          autocapitalize="characters"
          placeholder="XXXXX-XXXXX-XXXXX"
        />
        <el-button size="large" type="primary" class="wide" native-type="submit" :loading="asking.busy.value"
          >Go on</el-button
        >
      </CheckedForm>
      <RouterLink class="act" :to="{ name: 'start' }">Sign in instead</RouterLink>
    </template>
    <p v-if="asking.failure.value ?? joining.failure.value" class="notice bad" role="alert">
      {{ asking.failure.value ?? joining.failure.value }}
    </p>
  </div>
</template>

<style scoped>
.join {
  max-width: 460px;
  margin: 12vh auto 0;
  padding: 24px;
  display: grid;
  gap: 14px;
  justify-items: start;
}
.form {
  width: 100%;
}
.wide {
  width: 100%;
  min-height: 60px;
  font-size: 1.125rem;
}
</style>
