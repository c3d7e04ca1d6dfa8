<script setup lang="ts">
import { NewStoreBody } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { request, ROUTES } from '../../api/client.ts';
import CheckedForm from '../../shared/CheckedForm.vue';
import { useForm } from '../../shared/use-form.ts';
import TextField from '../../shared/TextField.vue';

/** A store of learning records that gets statements (xAPI) of what was shown. */
const emit = defineEmits<{ made: [] }>();
const blank = () => ({
  id: v7(),
  kind: 'xapi' as const,
  label: '',
  address: '',
  user: '',
  password: '',
  home: window.location.origin,
});
const checked = useForm(NewStoreBody, blank(), { 'receiver.address_refused': 'address' });
const { values, refused, failure, busy, send, reset } = checked;
async function make(): Promise<void> {
  if (!(await send((body) => request(ROUTES.addReceiver, { body })))) return;
  reset(blank());
  emit('made');
}
</script>

<template>
  <CheckedForm :of="checked" class="form" @send="make">
    <TextField
      v-model="values.label"
      prop="label"
      label="Name of the store"
      name="store-label"
      autocomplete="off"
    />
    <TextField
      v-model="values.address"
      prop="address"
      label="Address under which “statements” lies, https"
      :refused="refused['address']"
      name="store-address"
      autocomplete="off"
    />
    <TextField
      v-model="values.user"
      prop="user"
      label="User of the store"
      name="store-user"
      autocomplete="off"
    />
    <TextField
      v-model="values.password"
      prop="password"
      label="Its password"
      name="store-password"
      type="password"
      autocomplete="new-password"
    />
    <TextField
      v-model="values.home"
      prop="home"
      label="Address by which this school is known in it"
      name="store-home"
      autocomplete="off"
    />
    <el-button size="large" type="primary" native-type="submit" :loading="busy"
      >Send statements to it</el-button
    >
  </CheckedForm>
  <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
</template>

<style scoped>
.form {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(280px, 1fr));
  gap: 0 18px;
  max-width: 860px;
}
.form > .el-button {
  justify-self: start;
  align-self: center;
}
</style>
