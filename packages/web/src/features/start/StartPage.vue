<script setup lang="ts">
import { computed, reactive, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { request, ROUTES, wordsOf } from '../../api/client.ts';
import { home } from '../../shell/home.ts';
import { useSession } from '../../session/session.ts';

const session = useSession();
const route = useRoute();
const router = useRouter();
const form = reactive({ code: '', name: '', login: '', password: '' });
const failure = ref<string | null>(null);
const busy = ref(false);
const setup = computed(() => session.start?.setupNeeded === true && !session.start.demo);

async function enter(how: () => Promise<unknown>): Promise<void> {
  failure.value = null;
  busy.value = true;
  try {
    await how();
    await session.refresh();
    const to = route.query['to'];
    await router.push(typeof to === 'string' && to.startsWith('/') ? to : home(session));
  } catch (error) {
    failure.value = wordsOf(error);
  } finally {
    busy.value = false;
  }
}
const signIn = (): Promise<void> =>
  enter(() => request(ROUTES.signIn, { body: { login: form.login, password: form.password } }));
const setUp = (): Promise<void> => enter(() => request(ROUTES.setup, { body: { ...form } }));
const demo = (role: 'instructor' | 'lead' | 'trainee'): Promise<void> =>
  enter(() => request(ROUTES.demoSignIn, { body: { role } }));
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
      <form v-else-if="setup" class="form" @submit.prevent="setUp">
        <h2>First visit: the lead’s account</h2>
        <label class="field"
          ><span>One-time code, printed where the server was started</span
          ><el-input v-model="form.code" autocomplete="one-time-code" name="code"
        /></label>
        <label class="field"
          ><span>Your name</span><el-input v-model="form.name" name="name" autocomplete="name"
        /></label>
        <label class="field"
          ><span>Sign-in name, small letters</span
          ><el-input v-model="form.login" name="login" autocomplete="username"
        /></label>
        <label class="field"
          ><span>Password, at least 10 characters</span
          ><el-input v-model="form.password" name="password" type="password" autocomplete="new-password"
        /></label>
        <el-button size="large" type="primary" class="wide" native-type="submit" :disabled="busy"
          >Make the account</el-button
        >
      </form>
      <form v-else class="form" @submit.prevent="signIn">
        <h2>Sign in</h2>
        <label class="field"
          ><span>Sign-in name</span><el-input v-model="form.login" name="login" autocomplete="username"
        /></label>
        <label class="field"
          ><span>Password</span
          ><el-input v-model="form.password" name="password" type="password" autocomplete="current-password"
        /></label>
        <el-button size="large" type="primary" class="wide" native-type="submit" :disabled="busy"
          >Sign in</el-button
        >
      </form>
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
