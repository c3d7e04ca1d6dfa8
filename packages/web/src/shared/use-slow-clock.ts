import { useIntervalFn } from '@vueuse/core';
import { type Ref, ref } from 'vue';

const EVERY_MS = 10_000;

/** This device's time, ms, renewed every ten seconds while the view is open: enough for "since when". */
export function useSlowClock(): Readonly<Ref<number>> {
  const now = ref(Date.now());
  useIntervalFn(() => (now.value = Date.now()), EVERY_MS);
  return now;
}
