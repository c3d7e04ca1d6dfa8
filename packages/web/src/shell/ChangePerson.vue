<script setup lang="ts">
import { useIdle } from '@vueuse/core';
import { watch } from 'vue';
import { useRouter } from 'vue-router';
import { useAct } from '../api/queries.ts';
import { useSession } from '../session/session.ts';
import { usePlaceAskedFor } from './place-asked-for.ts';

/** At a bench device: the way back to the names, by a tap, and by itself when nobody has touched it for minutes. */
const IDLE_MS = 5 * 60_000;
const session = useSession();
const router = useRouter();
const place = usePlaceAskedFor();
const { failure, busy, act } = useAct();
const { idle } = useIdle(IDLE_MS);
const leave = (): Promise<boolean> =>
  act(async () => {
    // Whoever comes next goes on where this one was.
    const to = place.value;
    await session.signOut();
    await router.push({ name: 'start', query: { to } });
  });
watch(idle, (is) => {
  if (is) void leave();
});
</script>

<template>
  <span v-if="failure" class="bad small" role="alert">{{ failure }}</span>
  <el-button size="large" :loading="busy" @click="leave">Change person</el-button>
</template>
