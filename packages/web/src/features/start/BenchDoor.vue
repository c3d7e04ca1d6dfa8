<script setup lang="ts">
import { type BenchDoor, DEMO_PIN } from '@clear-mark/contract';
import { useEventListener } from '@vueuse/core';
import { computed, ref, shallowRef } from 'vue';
import { Refusal, request, ROUTES } from '../../api/client.ts';
import { useAct } from '../../api/queries.ts';
import { initials } from '../../shared/initials.ts';

/** The door of a device that stays at a bench: one taps the own name and the digits of the PIN. */
defineProps<{ door: BenchDoor; demo: boolean }>();
const emit = defineEmits<{ entered: []; password: [] }>();
const LEAST = 4;
const MOST = 8;
const chosen = shallowRef<BenchDoor['people'][number] | null>(null);
/** For whom the last try failed. */
const failedFor = shallowRef<unknown>(null);
const pin = ref('');
const { failure, busy, act } = useAct();
const dots = computed(() => '●'.repeat(pin.value.length));

function choose(person: BenchDoor['people'][number] | null): void {
  chosen.value = person;
  pin.value = '';
  failedFor.value = null;
}
function press(digit: string): void {
  if (pin.value.length < MOST) pin.value += digit;
}
async function enter(): Promise<void> {
  const person = chosen.value;
  if (!person || pin.value.length < LEAST || busy.value) return;
  await act(async () => {
    try {
      await request(ROUTES.enterByPin, { body: { personId: person.id, pin: pin.value } });
    } catch (error) {
      pin.value = '';
      failedFor.value = person;
      if (error instanceof Refusal && error.code === 'bench.none') emit('password');
      throw error;
    }
    emit('entered');
  });
}
useEventListener(window, 'keydown', (event) => {
  if (!chosen.value || event.ctrlKey || event.metaKey || event.altKey) return;
  if (/^[0-9]$/.test(event.key)) press(event.key);
  else if (event.key === 'Backspace') pin.value = pin.value.slice(0, -1);
  else if (event.key === 'Enter') void enter();
  else if (event.key === 'Escape') choose(null);
  else return;
  event.preventDefault();
});
</script>

<template>
  <section class="door">
    <h2>{{ door.label }}</h2>
    <p class="soft">{{ door.className }}</p>
    <template v-if="!chosen">
      <p v-if="door.people.length === 0" class="notice">
        Nobody of this class has a PIN yet. Each person sets one under Your account, after signing in with the
        password.
      </p>
      <p v-else-if="demo" class="soft">In the demo every PIN is {{ DEMO_PIN }}.</p>
      <div class="people">
        <el-button v-for="p in door.people" :key="p.id" size="large" class="person" @click="choose(p)">
          <span class="sign" aria-hidden="true">{{ initials(p.name) }}</span>
          <span class="name">{{ p.name }}</span>
        </el-button>
      </div>
      <el-button size="large" text @click="emit('password')">Sign in with a password</el-button>
    </template>
    <template v-else>
      <p>
        <b>{{ chosen.name }}</b>
      </p>
      <p class="dots" role="status" :aria-label="`${pin.length} digits`">{{ dots || 'PIN' }}</p>
      <div class="pad">
        <el-button
          v-for="digit in '123456789'"
          :key="digit"
          size="large"
          :disabled="busy"
          @click="press(digit)"
          >{{ digit }}</el-button
        >
        <el-button size="large" aria-label="Take the last digit back" @click="pin = pin.slice(0, -1)"
          >⌫</el-button
        >
        <el-button size="large" :disabled="busy" @click="press('0')">0</el-button>
        <el-button size="large" type="primary" :disabled="pin.length < LEAST || busy" @click="enter"
          >In</el-button
        >
      </div>
      <el-button size="large" text @click="choose(null)">Somebody else</el-button>
    </template>
    <p v-if="failure && failedFor === chosen" class="notice bad" role="alert">{{ failure }}</p>
  </section>
</template>

<style scoped>
.door {
  display: grid;
  gap: 12px;
}
.people {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
  gap: 10px;
  max-height: 56vh;
  overflow-y: auto;
}
.door :deep(.el-button) {
  margin: 0;
}
.person {
  min-height: 64px;
  justify-content: flex-start;
  white-space: normal;
  text-align: left;
}
.sign {
  font-weight: 700;
  margin-right: 10px;
}
.dots {
  font-size: 1.75rem;
  letter-spacing: 0.3em;
  min-height: 2.4rem;
}
.pad {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 110px));
  gap: 10px;
}
.pad > :deep(.el-button) {
  min-height: 64px;
  font-size: 1.375rem;
}
</style>
