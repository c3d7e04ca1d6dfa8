<script setup lang="ts">
import type { AccountState, Erased } from '@clear-mark/contract';
import { ERASURE_STAYS } from '@clear-mark/words';
import { computed, ref, shallowRef } from 'vue';
import { request, ROUTES } from '../../api/client.ts';
import { useAct, useReply } from '../../api/queries.ts';
import { erasedLines, goesLines } from './accounts.model.ts';

/** What is erased of a person and what stays, before and after it is done. It cannot be taken back. */
const props = defineProps<{ account: AccountState }>();
const emit = defineEmits<{ close: []; erased: [] }>();
const { id } = props.account;
const { found, failure: unread } = useReply(ROUTES.erasureOutlook, () => ({ params: { id } }));
const { failure: notDone, act } = useAct();
const typed = ref('');
const done = shallowRef<Erased | null>(null);
const failure = computed(() => unread.value ?? notDone.value);
const hinders = computed(() => found.value?.openPieces ?? []);
const ready = computed(
  () => found.value !== null && hinders.value.length === 0 && typed.value.trim() === found.value.name,
);
async function erase(): Promise<void> {
  await act(async () => {
    done.value = await request(ROUTES.erasePerson, { params: { id }, body: { name: typed.value.trim() } });
    emit('erased');
  });
}
</script>

<template>
  <el-dialog
    model-value
    :title="done ? done.token : `Erase ${account.name}`"
    width="min(620px, 94vw)"
    align-center
    @close="emit('close')"
  >
    <template v-if="done">
      <p>The person was erased. From now on the records say <b>{{ done.token }}</b>.</p>
      <ul>
        <li v-for="line in erasedLines(done)" :key="line">{{ line }}</li>
      </ul>
    </template>
    <template v-else-if="found">
      <p v-if="hinders.length > 0" class="notice bad">
        Still open: {{ hinders.slice(0, 5).join(', ') }}. Sign or withdraw these pieces first.
      </p>
      <h3>What goes</h3>
      <ul>
        <li v-for="line in goesLines(found)" :key="line">{{ line }}</li>
      </ul>
      <h3>What stays, and why</h3>
      <ul class="soft">
        <li v-for="line in ERASURE_STAYS" :key="line">{{ line }}</li>
      </ul>
      <el-form-item :label="`Type the name to confirm: ${found.name}`" label-position="top">
        <el-input v-model="typed" name="erase-name" autocomplete="off" :disabled="hinders.length > 0" />
      </el-form-item>
    </template>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <template #footer>
      <el-button size="large" @click="emit('close')">{{ done ? 'Close' : 'Cancel' }}</el-button>
      <el-button v-if="!done" size="large" type="danger" :disabled="!ready" @click="erase"
        >Erase for good</el-button
      >
    </template>
  </el-dialog>
</template>

<style scoped>
ul {
  margin: 4px 0 14px;
  padding-left: 20px;
}
</style>
