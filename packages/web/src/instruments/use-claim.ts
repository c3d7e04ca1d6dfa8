import { useIntervalFn } from '@vueuse/core';
import { onScopeDispose, ref } from 'vue';
import { useInstruments } from './use-instruments.ts';

/** A claim runs out after half a minute on the server. */
const RENEW_MS = 10_000;

/** The claim of an instrument for a sheet: kept while the view is open, given back when it closes. */
export function useClaim(attemptId: string) {
  const instruments = useInstruments();
  const held = ref<string | null>(null);
  const words = ref<string | null>(null);
  const inUse = ref(false);
  const renewing = useIntervalFn(() => void again(), RENEW_MS, { immediate: false });
  let left = false;

  async function take(thingId: string, takeOver = false): Promise<boolean> {
    if (held.value !== null && held.value !== thingId) drop();
    const reply = await instruments.claim(thingId, attemptId, takeOver);
    words.value = reply.words;
    inUse.value = reply.inUse;
    held.value = reply.taken ? thingId : null;
    // The view may have been closed while it was asked for.
    if (left) drop();
    else renewing.resume();
    return reply.taken;
  }
  async function again(): Promise<void> {
    if (held.value !== null) await take(held.value);
  }
  function drop(): void {
    if (held.value !== null) void instruments.release(held.value);
    held.value = null;
    renewing.pause();
  }
  onScopeDispose(() => {
    left = true;
    drop();
  });
  return { held, words, inUse, take, drop };
}
