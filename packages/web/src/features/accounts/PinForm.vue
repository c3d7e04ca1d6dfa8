<script setup lang="ts">
import { Password, Pin } from '@clear-mark/contract';
import { ref } from 'vue';
import { z } from 'zod';
import { request, ROUTES } from '../../api/client.ts';
import { useAct } from '../../api/queries.ts';
import CheckedForm from '../../shared/CheckedForm.vue';
import { useForm } from '../../shared/use-form.ts';
import TextField from '../../shared/TextField.vue';

/** The PIN by which the person comes in at devices that stay at a bench. */
defineProps<{ has: boolean }>();
const emit = defineEmits<{ changed: [] }>();
const checked = useForm(
  z.object({ password: Password, pin: Pin }),
  { password: '', pin: '' },
  { 'auth.bad_credentials': 'password', 'auth.weak_pin': 'pin' },
);
const { values, refused, failure, busy, send, reset } = checked;
const dropping = useAct();
const done = ref(false);
async function set(): Promise<void> {
  done.value = await send((body) => request(ROUTES.setPin, { body }));
  if (!done.value) return;
  reset({ password: '', pin: '' });
  emit('changed');
}
async function drop(): Promise<void> {
  done.value = false;
  if (await dropping.act(() => request(ROUTES.dropOwnPin, {}))) emit('changed');
}
</script>

<template>
  <section class="section">
    <h2>PIN for bench devices</h2>
    <p class="soft">
      A device that stays at a bench shows the names of its class: you tap yours and the PIN. It opens nothing
      on other devices.
    </p>
    <div v-if="has" class="row">
      <span>You have a PIN.</span>
      <el-button size="large" @click="drop">Take it away</el-button>
    </div>
    <CheckedForm :of="checked" class="form" @send="set">
      <TextField
        v-model="values.password"
        prop="password"
        label="Your password"
        :refused="refused['password']"
        name="pin-password"
        type="password"
        autocomplete="current-password"
      />
      <TextField
        v-model="values.pin"
        prop="pin"
        :label="has ? 'Another PIN, 4 to 8 digits' : 'A PIN, 4 to 8 digits'"
        :refused="refused['pin']"
        name="pin"
        type="password"
        inputmode="numeric"
        autocomplete="off"
      />
      <el-button size="large" type="primary" native-type="submit" :loading="busy">Set it</el-button>
    </CheckedForm>
    <p v-if="failure ?? dropping.failure.value" class="notice bad" role="alert">
      {{ failure ?? dropping.failure.value }}
    </p>
    <p v-if="done" class="notice" role="status">
      Set. It opens the bench devices of your classes from now on.
    </p>
  </section>
</template>

<style scoped>
.form {
  max-width: 380px;
  margin-top: 8px;
}
</style>
