<script setup lang="ts">
import { SetupBody, SignInBody } from '@clear-mark/contract';
import { computed, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { Refusal, request, ROUTES } from '../../api/client.ts';
import { useAct, useReply } from '../../api/queries.ts';
import BenchDoor from './BenchDoor.vue';
import CheckedForm from '../../shared/CheckedForm.vue';
import { PASSWORD_REFUSALS } from '../../shared/password-refusals.ts';
import { vFocus } from '../../shared/v-focus.ts';
import { useForm } from '../../shared/use-form.ts';
import { home } from '../../shell/home.ts';
import { useSession } from '../../session/session.ts';
import TextField from '../../shared/TextField.vue';

const session = useSession();
const route = useRoute();
const router = useRouter();
const signing = useForm(SignInBody, { login: '', password: '' }, { 'auth.bad_second_factor': 'code' });
/** The password was right, and a code is asked for as well. */
const asksCode = ref(false);
const setting = useForm(
  SetupBody,
  { code: '', name: '', login: '', password: '' },
  {
    'auth.bad_setup_code': 'code',
    ...PASSWORD_REFUSALS,
  },
);
/** Asked only where the server was reached; a device that is no bench device is told so. */
const { found: door } = useReply(ROUTES.benchDoor, () => (session.start === null ? null : {}));
const byPassword = ref(false);
const entering = useAct();
const busy = computed(() => entering.busy.value || signing.busy.value || setting.busy.value);
const failure = computed(() => entering.failure.value ?? signing.failure.value ?? setting.failure.value);
const setup = computed(() => session.start?.setupNeeded === true && !session.start.demo);

async function enter(): Promise<void> {
  await session.refresh();
  const to = route.query['to'];
  await router.push(typeof to === 'string' && to.startsWith('/') ? to : home(session));
}
const signIn = (): Promise<boolean> =>
  signing.send(async (body) => {
    try {
      await request(ROUTES.signIn, { body: asksCode.value ? body : { ...body, code: undefined } });
    } catch (error) {
      if (!(error instanceof Refusal) || error.code !== 'auth.second_factor_needed') throw error;
      asksCode.value = true;
      return;
    }
    await enter();
  });
const setUp = (): Promise<boolean> =>
  setting.send(async (body) => {
    await request(ROUTES.setup, { body });
    await enter();
  });
const demo = (role: 'instructor' | 'lead' | 'trainee'): Promise<boolean> =>
  entering.act(async () => {
    await request(ROUTES.demoSignIn, { body: { role } });
    await enter();
  });
</script>

<template>
  <div class="start">
    <div class="intro">
      <svg class="big" viewBox="0 0 240 240" aria-hidden="true">
        <circle cx="120" cy="120" r="92" fill="none" stroke="var(--hair)" stroke-width="2" />
        <circle cx="120" cy="120" r="70" fill="none" stroke="var(--ink)" stroke-width="18" />
        <circle cx="120" cy="120" r="9" fill="var(--accent)" />
      </svg>
      <h1>Clear Mark</h1>
      <p>Score strip, cleave, terminate, inspect and test while it happens. See who needs what again.</p>
    </div>
    <div class="panel">
      <p v-if="session.start === null" class="notice bad">
        The server does not answer. Reload when it is back.
      </p>
      <BenchDoor
        v-else-if="door && !byPassword"
        :door="door"
        :demo="session.start.demo"
        @entered="enter"
        @password="byPassword = true"
      />
      <template v-else-if="session.start.demo">
        <h2>Demo</h2>
        <p class="soft">A made-up class in the middle of its course. Nothing here is about real people.</p>
        <el-button size="large" type="primary" class="wide" :disabled="busy" @click="demo('instructor')">
          Enter as the demo’s instructor
        </el-button>
        <div class="row">
          <el-button size="large" :disabled="busy" @click="demo('lead')">As the lead</el-button>
          <el-button size="large" :disabled="busy" @click="demo('trainee')">As a trainee</el-button>
        </div>
      </template>
      <CheckedForm v-else-if="setup" :of="setting" class="form" @send="setUp">
        <h2>First visit: the lead’s account</h2>
        <TextField
          v-model="setting.values.code"
          prop="code"
          label="One-time code, from whoever set the server up"
          :refused="setting.refused['code']"
          autocomplete="one-time-code"
          name="code"
        />
        <TextField
          v-model="setting.values.name"
          prop="name"
          label="Your name"
          name="name"
          autocomplete="name"
        />
        <TextField
          v-model="setting.values.login"
          prop="login"
          label="Sign-in name, small letters"
          name="login"
          autocomplete="username"
        />
        <TextField
          v-model="setting.values.password"
          prop="password"
          label="Password, at least 10 characters"
          :refused="setting.refused['password']"
          name="password"
          type="password"
          autocomplete="new-password"
        />
        <el-button size="large" type="primary" class="wide" native-type="submit" :disabled="busy"
          >Make the account</el-button
        >
      </CheckedForm>
      <CheckedForm v-else :of="signing" class="form" @send="signIn">
        <h2>Sign in</h2>
        <TextField
          v-model="signing.values.login"
          prop="login"
          label="Sign-in name"
          name="login"
          autocomplete="username"
        />
        <TextField
          v-model="signing.values.password"
          prop="password"
          label="Password"
          name="password"
          type="password"
          autocomplete="current-password"
        />
        <el-form-item
          v-if="asksCode"
          prop="code"
          label="Code of your authenticator, or a recovery code"
          :error="signing.refused['code']"
        >
          <el-input
            v-model="signing.values.code"
            v-focus
            name="second-factor"
            inputmode="numeric"
            autocomplete="one-time-code"
          />
        </el-form-item>
        <el-button size="large" type="primary" class="wide" native-type="submit" :disabled="busy"
          >Sign in</el-button
        >
        <RouterLink class="act" :to="{ name: 'join' }">You have a code: new account or password</RouterLink>
      </CheckedForm>
      <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    </div>
  </div>
</template>

<style scoped>
.start {
  min-height: 100vh;
  display: grid;
  grid-template-columns: 1fr 1fr;
  align-items: center;
  max-width: 1000px;
  margin: 0 auto;
  gap: 40px;
  padding: 24px;
}
.big {
  width: 220px;
}
.intro h1 {
  font-size: 2.5rem;
}
.intro p {
  font-size: 1.25rem;
  max-width: 26ch;
}
.panel,
.form {
  display: grid;
  gap: 14px;
}
.wide {
  width: 100%;
  min-height: 60px;
  font-size: 1.125rem;
}
@media (max-width: 800px) {
  .start {
    grid-template-columns: 1fr;
    align-content: center;
    gap: 20px;
  }
  .big {
    width: 120px;
  }
}
</style>
