import type { ClassSummary, Person, StartInfo } from '@clear-mark/contract';
import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import { call, ROUTES } from '../api/client.ts';
import { deviceStore } from '../storage/device-store.ts';
import { useQueue } from '../storage/queue.ts';

/** Who is signed in on this device, and in which classes. */
export const useSession = defineStore('session', () => {
  const start = ref<StartInfo | null>(null);
  const classes = ref<ClassSummary[]>([]);
  const deviceId = ref('');
  const me = computed<Person | null>(() => start.value?.me ?? null);
  const teaches = computed(() => me.value !== null && me.value.role !== 'trainee');

  async function refresh(): Promise<void> {
    deviceId.value ||= await deviceStore.deviceId();
    start.value = await call(ROUTES.start, {});
    classes.value = start.value.me ? await call(ROUTES.classes, {}) : [];
    await useQueue().load(start.value.me?.id ?? null);
  }

  async function signOut(): Promise<void> {
    await call(ROUTES.signOut, {});
    await refresh();
  }

  return { start, classes, deviceId, me, teaches, refresh, signOut };
});
