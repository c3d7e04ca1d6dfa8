<script setup lang="ts">
import { type BenchDevice, Label } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { computed } from 'vue';
import { z } from 'zod';
import { request, ROUTES } from '../../api/client.ts';
import { useAct, useReply } from '../../api/queries.ts';
import CheckedForm from '../../shared/CheckedForm.vue';
import { momentWords } from '../../shared/time-words.ts';
import { useForm } from '../../shared/use-form.ts';
import TextField from '../../shared/TextField.vue';

/** Devices that stay at a bench: people of the class change there by tapping a name and a PIN. */
const props = defineProps<{ classId: string }>();
const params = computed(() => ({ id: props.classId }));
const { found, failure: unread, again } = useReply(ROUTES.benchDevices, () => ({ params: params.value }));
const checked = useForm(z.object({ label: Label }), { label: '' });
const { values, failure: notMade, busy, send, reset } = checked;
const { failure: notEnded, act } = useAct();
const failure = computed(() => notMade.value ?? notEnded.value ?? unread.value);

async function add(): Promise<void> {
  const done = await send(({ label }) =>
    request(ROUTES.addBenchDevice, { params: params.value, body: { id: v7(), label } }),
  );
  if (!done) return;
  reset({ label: '' });
  await again();
}
async function end(device: BenchDevice): Promise<void> {
  await act(() => request(ROUTES.endBenchDevice, { params: { ...params.value, benchId: device.id } }));
  await again();
}
</script>

<template>
  <section class="section">
    <h2>Bench devices</h2>
    <p class="soft">
      On a device that stays at a bench, whoever of this class has a PIN comes in by tapping the own name and
      the PIN. Set it up on the device itself; each person sets the PIN under Your account.
    </p>
    <CheckedForm :of="checked" class="form" @send="add">
      <TextField
        v-model="values.label"
        prop="label"
        label="Name of this device, as the bench is called"
        name="bench-label"
        autocomplete="off"
      />
      <el-button size="large" native-type="submit" :loading="busy">Make this a bench device</el-button>
    </CheckedForm>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <ul v-if="found && found.length > 0" class="devices">
      <li v-for="device in found" :key="device.id" class="row">
        <span>
          <b>{{ device.label }}</b>
          <span v-if="device.here"> this device</span>
          <span class="soft small"> by {{ device.madeBy }}, {{ momentWords(device.madeAt, 'short') }}</span>
        </span>
        <el-button size="large" :aria-label="`End ${device.label}`" @click="end(device)">End it</el-button>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.form {
  display: flex;
  flex-wrap: wrap;
  gap: 14px;
  align-items: flex-start;
}
.form > .el-button {
  margin-top: 30px;
}
.devices {
  list-style: none;
  padding: 0;
  max-width: 640px;
}
.devices > li {
  justify-content: space-between;
  padding: 6px 0;
  border-bottom: 1px solid var(--hair);
}
</style>
