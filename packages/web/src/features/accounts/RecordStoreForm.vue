<script setup lang="ts">
import { NewStoreBody } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { request, ROUTES } from '../../api/client.ts';
import CheckedForm from '../../shared/CheckedForm.vue';
import { useForm } from '../../shared/use-form.ts';

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
    <el-form-item prop="label" label="Name of the store">
      <el-input v-model="values.label" name="store-label" autocomplete="off" />
    </el-form-item>
    <el-form-item
      prop="address"
      label="Address under which “statements” lies, https"
      :error="refused['address']"
    >
      <el-input v-model="values.address" name="store-address" autocomplete="off" />
    </el-form-item>
    <el-form-item prop="user" label="User of the store">
      <el-input v-model="values.user" name="store-user" autocomplete="off" />
    </el-form-item>
    <el-form-item prop="password" label="Its password">
      <el-input v-model="values.password" name="store-password" type="password" autocomplete="new-password" />
    </el-form-item>
    <el-form-item prop="home" label="Address by which this school is known in it">
      <el-input v-model="values.home" name="store-home" autocomplete="off" />
    </el-form-item>
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
