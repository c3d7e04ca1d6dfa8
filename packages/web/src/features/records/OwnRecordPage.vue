<script setup lang="ts">
import type { AttemptList, OwnBench as Bench } from '@clear-mark/contract';
import { onMounted, ref, shallowRef } from 'vue';
import { call, ROUTES, wordsOf } from '../../api/client.ts';
import { useSession } from '../../session/session.ts';
import { OwnCalls } from '../faces/index.ts';
import AttemptTable from './AttemptTable.vue';
import OwnBench from './OwnBench.vue';

const session = useSession();
const list = shallowRef<AttemptList | null>(null);
const benches = shallowRef<readonly Bench[]>([]);
const failure = ref<string | null>(null);
onMounted(async () => {
  try {
    [list.value, benches.value] = await Promise.all([call(ROUTES.ownRecord, {}), call(ROUTES.ownBench, {})]);
  } catch (error) {
    failure.value = wordsOf(error);
  }
});
</script>

<template>
  <div class="page">
    <h1>{{ session.me?.name }}: own record</h1>
    <p v-if="failure" class="notice bad" role="alert">{{ failure }}</p>
    <OwnBench v-for="b in benches" :key="b.classId" :bench="b" />
    <OwnCalls />
    <p v-if="list && list.total === 0" class="soft">No piece yet.</p>
    <AttemptTable
      v-else-if="list"
      :rows="list.rows"
      :with-trainee="false"
      :to="(row) => ({ name: 'own-sheet', params: { attemptId: row.attemptId } })"
    />
  </div>
</template>
