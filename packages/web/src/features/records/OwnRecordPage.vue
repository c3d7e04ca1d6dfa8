<script setup lang="ts">
import type { AttemptList } from '@clear-mark/contract';
import { onMounted, ref, shallowRef } from 'vue';
import { call, ROUTES, wordsOf } from '../../api/client.ts';
import { useSession } from '../../shell/session.ts';
import AttemptTable from './AttemptTable.vue';

const session = useSession();
const list = shallowRef<AttemptList | null>(null);
const failure = ref<string | null>(null);
onMounted(async () => {
  try {
    list.value = await call(ROUTES.ownRecord, {});
  } catch (error) {
    failure.value = wordsOf(error);
  }
});
</script>

<template>
  <div class="page">
    <h1>{{ session.me?.name }}: own record</h1>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <p v-if="list && list.total === 0" class="soft">
      No piece yet. The first one is started at the bench by an instructor.
    </p>
    <AttemptTable
      v-else-if="list"
      :rows="list.rows"
      :with-trainee="false"
      :to="(row) => ({ name: 'own-sheet', params: { attemptId: row.attemptId } })"
    />
  </div>
</template>
