<script setup lang="ts">
import { NewWebhookBody, TOLD_EVENTS, type ToldEvent } from '@clear-mark/contract';
import { TOLD_EVENT_WORDS } from '@clear-mark/words';
import { v7 } from 'uuid';
import { ref } from 'vue';
import { request, ROUTES } from '../../api/client.ts';
import CheckedForm from '../../shared/CheckedForm.vue';
import ShownOnce from '../../shared/ShownOnce.vue';
import { useForm } from '../../shared/use-form.ts';
import TextField from '../../shared/TextField.vue';

/** A program that is told by webhooks; the key of their signatures is shown once. */
const emit = defineEmits<{ made: [] }>();
const blank = () => ({
  id: v7(),
  kind: 'webhook' as const,
  label: '',
  address: '',
  events: [...TOLD_EVENTS] as ToldEvent[],
});
const checked = useForm(NewWebhookBody, blank(), { 'receiver.address_refused': 'address' });
const { values, refused, failure, busy, send, reset } = checked;
const secret = ref<string | null>(null);
async function make(): Promise<void> {
  const done = await send(async (body) => {
    secret.value = (await request(ROUTES.addReceiver, { body })).secret;
  });
  if (!done) return;
  reset(blank());
  emit('made');
}
</script>

<template>
  <ShownOnce v-if="secret" name="secret" :secret="secret" @taken="secret = null">
    The key that its webhooks are signed with.
  </ShownOnce>
  <CheckedForm :of="checked" class="form" @send="make">
    <TextField
      v-model="values.label"
      prop="label"
      label="Name of the program"
      name="webhook-label"
      autocomplete="off"
    />
    <TextField
      v-model="values.address"
      prop="address"
      label="Address, https"
      :refused="refused['address']"
      name="webhook-address"
      autocomplete="off"
    />
    <el-form-item prop="events" label="What it is told" class="wide">
      <el-checkbox-group v-model="values.events">
        <el-checkbox v-for="e in TOLD_EVENTS" :key="e" :value="e" size="large">{{
          TOLD_EVENT_WORDS[e]
        }}</el-checkbox>
      </el-checkbox-group>
    </el-form-item>
    <el-button size="large" type="primary" native-type="submit" :loading="busy"
      >Tell it by webhooks</el-button
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
.wide {
  grid-column: 1 / -1;
}
.form > .el-button {
  justify-self: start;
}
</style>
