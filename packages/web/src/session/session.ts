import type { ClassSummary, Person, StartInfo } from '@clear-mark/contract';
import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import { NoServer, request, ROUTES } from '../api/client.ts';
import { forgetReplies } from '../api/queries.ts';
import { deviceStore, SESSION_SETTING } from '../storage/device-store.ts';
import { useQueue } from '../storage/queue.ts';

/** What was last known of the person and the classes, for a start without a network: never the key of the device. */
interface Kept {
  readonly start: StartInfo;
  readonly classes: ClassSummary[];
}

/** Who is signed in on this device, and in which classes. */
export const useSession = defineStore('session', () => {
  const start = ref<StartInfo | null>(null);
  const classes = ref<ClassSummary[]>([]);
  const deviceId = ref('');
  /** Started from what the device had kept: the server was not reached yet. */
  const fromKept = ref(false);
  const me = computed<Person | null>(() => start.value?.me ?? null);
  const teaches = computed(() => me.value !== null && me.value.role !== 'trainee');

  async function refresh(): Promise<void> {
    const before = me.value?.id;
    deviceId.value ||= await deviceStore.deviceId();
    try {
      start.value = await request(ROUTES.start, {});
      classes.value =
        start.value.me && !start.value.needsSecondFactor ? await request(ROUTES.classes, {}) : [];
      fromKept.value = false;
      const kept: Kept = { start: { ...start.value, deviceKey: null }, classes: classes.value };
      await deviceStore
        .keepSetting(SESSION_SETTING, start.value.me ? JSON.stringify(kept) : null)
        .catch(() => undefined);
    } catch (error) {
      const kept =
        error instanceof NoServer ? await deviceStore.setting(SESSION_SETTING).catch(() => null) : null;
      if (kept === null) throw error;
      ({ start: start.value, classes: classes.value } = JSON.parse(kept) as Kept);
      fromKept.value = true;
    }
    const { me: person, deviceKey } = start.value;
    if (person?.id !== before) forgetReplies();
    if (person)
      await useQueue()
        .comeBack(person.id, deviceKey)
        .catch(() => undefined);
    await useQueue().load(me.value ? { id: me.value.id, teaches: teaches.value } : null);
  }

  /** The zone in which days of a class are told; this device's own until the class is known. */
  const zoneOf = (classId: string): string =>
    classes.value.find((c) => c.id === classId)?.timeZone ?? Intl.DateTimeFormat().resolvedOptions().timeZone;

  async function signOut(): Promise<void> {
    await useQueue().leaveDevice(start.value?.deviceKey ?? null);
    await request(ROUTES.signOut, {});
    await refresh();
  }

  return { start, classes, deviceId, fromKept, me, teaches, zoneOf, refresh, signOut };
});
