<script setup lang="ts">
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import { useClassroom } from '../classroom/use-classroom.ts';
import type { Queued } from '../storage/device-store.ts';
import { useQueue } from '../storage/queue.ts';
import { mendable } from '../storage/queue.model.ts';
import { useSession } from '../session/session.ts';
import { download } from '../shared/save-file.ts';
import { timeOfDay } from '../shared/time-words.ts';
import { usePlaceAskedFor } from './place-asked-for.ts';

const queue = useQueue();
const classroom = useClassroom();
const session = useSession();
const router = useRouter();
const place = usePlaceAskedFor();
const open = ref(false);

const state = computed(() => {
  if (queue.storageFull) return { kind: 'bad', text: 'Device storage is full' };
  if (queue.stuck.length > 0) return { kind: 'bad', text: `${queue.stuck.length} not taken` };
  if (queue.waiting > 0 && queue.delivery === 'signed_out') {
    return { kind: 'wait', text: `${queue.waiting} waiting, sign in` };
  }
  if (queue.waiting > 0 && queue.delivery === 'no_server') {
    return { kind: 'wait', text: `${queue.waiting} kept here, no server` };
  }
  if (queue.waiting > 0) return { kind: 'wait', text: `${queue.waiting} on the way` };
  if (classroom.classId !== '' && classroom.connection === 'away')
    return { kind: 'wait', text: 'No network, all kept' };
  return { kind: 'good', text: 'All saved' };
});

const nameOf = (q: Queued): string =>
  q.entry
    ? (q.entry.criterionId?.split('/').pop()?.replaceAll('-', ' ') ?? q.entry.kind)
    : q.start
      ? `piece ${q.start.body.pieceLabel} started`
      : `reference at ${q.reference!.body.wavelengthNm} nm`;
const atOf = (q: Queued): string => q.entry?.at ?? q.start?.body.startedAt ?? q.reference!.body.setAt;

/** The session has ended: what is here stays, and goes out once its author, or another instructor, signs in. */
async function signInAgain(): Promise<void> {
  await session.refresh();
  open.value = false;
  await router.push({ name: 'start', query: { to: place.value } });
}

function exportFile(list: readonly Queued[], name: string): void {
  const text = JSON.stringify(
    list.map(({ entry, start, reference, state, detail }) => ({ entry, start, reference, state, detail })),
    null,
    2,
  );
  download(name, new Blob([text], { type: 'application/json' }));
}

const wordsFor = (q: Queued): string =>
  q.state === 'waiting' ? (queue.restsWhy(q) ?? 'waiting') : (q.detail ?? '');
const isMine = (q: Queued): boolean => q.authorId === session.me?.id;
/** The refused entry that is put right at present, and its text. */
const mending = ref<{ readonly id: string; text: string } | null>(null);
function beginToMend(q: Queued): void {
  const what = mendable(q.entry);
  if (what) mending.value = { id: q.id, text: what.text };
}
async function sendMended(): Promise<void> {
  const { id, text } = mending.value!;
  if (text.trim() === '') return;
  mending.value = null;
  await queue.mend(id, text);
}
/** To its sheet, where it can be entered anew. */
function openSheet(q: Queued): void {
  open.value = false;
  const params = { classId: classroom.classId, attemptId: q.entry!.attemptId };
  void router.push(session.teaches ? { name: 'sheet', params } : { name: 'own-sheet', params });
}
</script>

<template>
  <el-button
    size="large"
    text
    class="state"
    :class="state.kind"
    data-test="queue-state"
    aria-live="polite"
    @click="open = true"
  >
    <span class="dot" aria-hidden="true" />{{ state.text }}
  </el-button>
  <el-dialog v-model="open" title="Entries of this device" width="min(760px, 96vw)" append-to-body>
    <p v-if="queue.items.length === 0">Everything entered here has reached the server.</p>
    <template v-else>
      <p class="soft">
        Entries stay on this device until the server has acknowledged them. Those that it could not take stay
        with the reason.
      </p>
      <ul class="list">
        <li v-for="q in queue.items" :key="q.id">
          <span>{{ nameOf(q) }}</span>
          <span class="soft small">{{ timeOfDay(atOf(q)) }}</span>
          <span class="small why">{{ wordsFor(q) }}</span>
          <span v-if="q.state !== 'waiting'" class="acts">
            <el-button v-if="mendable(q.entry) && isMine(q)" @click="beginToMend(q)"> Put right </el-button>
            <el-button v-else-if="q.entry && classroom.classId !== ''" @click="openSheet(q)">
              Open its sheet
            </el-button>
            <el-button @click="exportFile([q], `clear-mark-entry-${q.id.slice(0, 8)}.json`)">
              Save
            </el-button>
            <el-popconfirm
              title="It is gone from this device then."
              confirm-button-text="Discard it"
              cancel-button-text="Keep it"
              width="240"
              @confirm="queue.dismiss(q.id)"
            >
              <template #reference><el-button>Discard</el-button></template>
            </el-popconfirm>
          </span>
          <form v-if="mending?.id === q.id" class="mend" @submit.prevent="sendMended">
            <el-input v-model="mending.text" maxlength="2000" aria-label="Put right" data-test="mend" />
            <el-button native-type="submit" type="primary">Send it again</el-button>
          </form>
        </li>
      </ul>
      <div class="row">
        <el-button v-if="queue.delivery === 'signed_out'" size="large" type="primary" @click="signInAgain">
          Sign in to send
        </el-button>
        <el-button v-else size="large" type="primary" @click="queue.drain()">Send now</el-button>
        <el-button size="large" @click="exportFile(queue.items, 'clear-mark-entries.json')">
          Save as a file
        </el-button>
      </div>
    </template>
  </el-dialog>
</template>

<style scoped>
.state {
  font-size: 0.9375rem;
}
.dot {
  width: 12px;
  height: 12px;
  border-radius: 50%;
  border: 3px solid var(--ink-soft);
}
.wait .dot {
  border-color: var(--ink-soft);
  border-style: dashed;
}
.wait {
  color: var(--ink-soft);
  font-weight: 700;
}
.bad .dot {
  border-color: var(--ink);
  background: var(--ink);
}
.bad {
  color: var(--ink);
  font-weight: 700;
}
.list {
  list-style: none;
  padding: 0;
  max-height: 320px;
  overflow: auto;
}
.list li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto minmax(0, 1.4fr) auto;
  gap: 10px;
  align-items: center;
  border-bottom: 1px solid var(--hair);
  padding: 6px 0;
}
.why {
  overflow-wrap: anywhere;
}
.acts {
  display: flex;
  gap: 4px;
}
.acts .el-button + .el-button {
  margin-left: 0;
}
.mend {
  grid-column: 1 / -1;
  display: flex;
  gap: 8px;
}
</style>
