<script setup lang="ts">
import {
  type Delivery,
  type Receiver,
  RECEIVER_KINDS,
  type ReceiverKind,
  type ToldEvent,
} from '@clear-mark/contract';
import { RECEIVER_KIND_WORDS, TOLD_EVENT_WORDS } from '@clear-mark/words';
import { computed, ref, watch } from 'vue';
import { request, ROUTES } from '../../api/client.ts';
import { useAct, useReply } from '../../api/queries.ts';
import ActMenu from '../../shared/ActMenu.vue';
import { momentWords } from '../../shared/time-words.ts';
import { offerUndo } from '../../shared/undo.ts';
import RecordStoreForm from './RecordStoreForm.vue';
import WebhookForm from './WebhookForm.vue';
import { deliveryState, type ReceiverAct, receiverActs, receiverState } from './receivers.model.ts';

/** Other programs that are told what happens, and how each telling went. For the lead. */
const { found, failure: unread, again } = useReply(ROUTES.receivers, () => ({}));
const { failure: notDone, act } = useAct();
const failure = computed(() => notDone.value ?? unread.value);
const kind = ref<ReceiverKind>('webhook');
const opened = ref<string | null>(null);
const { found: told, again: toldAgain } = useReply(ROUTES.deliveries, () =>
  opened.value === null ? null : { params: { id: opened.value } },
);
watch(found, (list) => {
  if (opened.value !== null && !list?.some((r) => r.id === opened.value)) opened.value = null;
});

const pause = async (receiver: Receiver, paused: boolean): Promise<void> => {
  await act(() => request(ROUTES.pauseReceiver, { params: { id: receiver.id }, body: { paused } }));
  await again();
};
async function choose(what: ReceiverAct, receiver: Receiver): Promise<void> {
  const params = { id: receiver.id };
  switch (what) {
    case 'pause':
    case 'go_on':
      await pause(receiver, what === 'pause');
      return offerUndo(`${receiver.label} is ${what === 'pause' ? 'paused' : 'told again'}.`, () =>
        pause(receiver, what !== 'pause'),
      );
    case 'try':
      opened.value = receiver.id;
      await act(() => request(ROUTES.tryReceiver, { params }));
      return toldAgain();
    case 'told':
      opened.value = opened.value === receiver.id ? null : receiver.id;
      return;
    case 'drop':
      await act(() => request(ROUTES.dropReceiver, { params }));
      return again();
    default: {
      const never: never = what;
      return never;
    }
  }
}
async function sendAgain(delivery: Delivery): Promise<void> {
  const params = { id: opened.value!, deliveryId: delivery.id };
  await act(() => request(ROUTES.sendAgain, { params }));
  await Promise.all([toldAgain(), again()]);
}
const wordsOfEvent = (event: string): string => TOLD_EVENT_WORDS[event as ToldEvent] ?? 'a try';
</script>

<template>
  <section class="section">
    <h2>Programs that are told what happens</h2>
    <p class="soft">
      A webhook names what happened by ids, signed; the program asks for the rest with a token. A record store
      gets statements (xAPI) of what was shown, with names. What does not arrive is sent again for two days.
    </p>
    <el-table :data="found ?? []" row-key="id" data-test="receivers" empty-text="No program is told anything">
      <el-table-column prop="label" label="Program" min-width="150" />
      <el-table-column label="Kind" width="150">
        <template #default="{ row }: { row: Receiver }">{{ RECEIVER_KIND_WORDS[row.kind] }}</template>
      </el-table-column>
      <el-table-column prop="address" label="Address" min-width="240" />
      <el-table-column label="State" min-width="160">
        <template #default="{ row }: { row: Receiver }"><b>{{ receiverState(row) }}</b></template>
      </el-table-column>
      <el-table-column width="132" align="right">
        <template #default="{ row }: { row: Receiver }">
          <ActMenu
            label="Change"
            :name="`Change: ${row.label}`"
            :acts="receiverActs(row)"
            @choose="(what) => choose(what, row)"
          />
        </template>
      </el-table-column>
    </el-table>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
  </section>
  <section v-if="opened && told" class="section">
    <h2>What it was told last</h2>
    <el-table :data="told" row-key="id" data-test="deliveries" empty-text="Nothing yet">
      <el-table-column label="What" min-width="200">
        <template #default="{ row }: { row: Delivery }">{{ wordsOfEvent(row.event) }}</template>
      </el-table-column>
      <el-table-column label="When" width="180">
        <template #default="{ row }: { row: Delivery }">{{ momentWords(row.at, 'short') }}</template>
      </el-table-column>
      <el-table-column label="How it went" min-width="260">
        <template #default="{ row }: { row: Delivery }">{{ deliveryState(row) }}</template>
      </el-table-column>
      <el-table-column width="140" align="right">
        <template #default="{ row }: { row: Delivery }">
          <el-button v-if="!row.deliveredAt" size="large" @click="sendAgain(row)">Send now</el-button>
        </template>
      </el-table-column>
    </el-table>
    <el-button size="large" @click="toldAgain">Look again</el-button>
  </section>
  <section class="section">
    <h2>Tell another program</h2>
    <el-segmented
      v-model="kind"
      size="large"
      class="kind"
      aria-label="Kind"
      :options="RECEIVER_KINDS.map((value) => ({ value, label: RECEIVER_KIND_WORDS[value] }))"
    />
    <WebhookForm v-if="kind === 'webhook'" @made="again" />
    <RecordStoreForm v-else @made="again" />
  </section>
</template>

<style scoped>
.kind {
  margin: 8px 0 14px;
}
</style>
