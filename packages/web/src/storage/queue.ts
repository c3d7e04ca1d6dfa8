import type { AttemptEntry, EntryReceipt } from '@clear-mark/contract';
import { defineStore } from 'pinia';
import { computed, shallowRef } from 'vue';
import { call, Refusal, ROUTES } from '../api/client.ts';
import { deviceStore, type Queued } from './device-store.ts';

const BATCH = 200;
const FIRST_WAIT_MS = 1000;
const LONGEST_WAIT_MS = 10_000;

export type LinkState = 'idle' | 'sending' | 'no_server' | 'signed_out';
type Listener = (entry: AttemptEntry, receipt: EntryReceipt) => void;

/**
 * Entries on their way to the server. Each is kept on the device first, sent in order, and leaves only when it
 * was acknowledged. Refused ones stay, with the reason. The queue of another person on the same device waits
 * until that person signs in.
 */
export const useQueue = defineStore('queue', () => {
  const items = shallowRef<readonly Queued[]>([]);
  const link = shallowRef<LinkState>('idle');
  const storageFull = shallowRef(false);
  const listeners = new Set<Listener>();
  let author: string | null = null;
  let wait = FIRST_WAIT_MS;
  let timer: ReturnType<typeof setTimeout> | null = null;
  let sending = false;

  const mine = computed(() =>
    items.value.filter((q) => q.state === 'waiting' && q.entry.authorId === author),
  );
  const waiting = computed(() => items.value.filter((q) => q.state === 'waiting').length);
  const stuck = computed(() => items.value.filter((q) => q.state !== 'waiting'));

  async function load(personId: string | null): Promise<void> {
    author = personId;
    items.value = await deviceStore.all();
    void drain();
  }

  /** Shown at once, kept on the device at once, sent as soon as the server answers. */
  async function push(entry: AttemptEntry): Promise<void> {
    const shown: Queued = { entry, state: 'waiting', detail: null };
    items.value = [...items.value, shown];
    try {
      const kept = await deviceStore.add(entry);
      items.value = items.value.map((q) => (q === shown ? kept : q));
    } catch {
      storageFull.value = true;
    }
    void drain();
  }

  async function drain(): Promise<void> {
    if (sending) return;
    if (timer) clearTimeout(timer);
    timer = null;
    sending = true;
    try {
      while (mine.value.length > 0 && (await sendBatch(mine.value.slice(0, BATCH))));
    } finally {
      sending = false;
    }
    if (link.value === 'no_server' && mine.value.length > 0) {
      timer = setTimeout(() => void drain(), wait);
      wait = Math.min(wait * 2, LONGEST_WAIT_MS);
    }
  }

  async function sendBatch(batch: readonly Queued[]): Promise<boolean> {
    link.value = link.value === 'no_server' ? 'no_server' : 'sending';
    try {
      const body = { entries: batch.map((q) => q.entry), sentAt: new Date().toISOString() };
      const { receipts } = await call(ROUTES.sendEntries, { body });
      for (const receipt of receipts) await settle(receipt);
      link.value = 'idle';
      wait = FIRST_WAIT_MS;
      return true;
    } catch (error) {
      // Whatever went wrong, the entries stay and are tried again.
      link.value = error instanceof Refusal && error.status === 401 ? 'signed_out' : 'no_server';
      return false;
    }
  }

  async function settle(receipt: EntryReceipt): Promise<void> {
    const queued = items.value.find((q) => q.entry.id === receipt.id);
    if (!queued) return;
    if (receipt.state === 'accepted') {
      for (const listener of listeners) listener(queued.entry, receipt);
      items.value = items.value.filter((q) => q.entry.id !== receipt.id);
      if (queued.order !== undefined) await deviceStore.remove([queued.order]);
      return;
    }
    const kept: Queued = { ...queued, state: receipt.state, detail: receipt.detail };
    items.value = items.value.map((q) => (q.entry.id === receipt.id ? kept : q));
    for (const listener of listeners) listener(queued.entry, receipt);
    if (kept.order !== undefined) await deviceStore.change(kept);
  }

  /** Takes a refused entry off the list, after the person has read why. */
  async function dismiss(id: string): Promise<void> {
    const queued = items.value.find((q) => q.entry.id === id);
    if (!queued || queued.state === 'waiting') return;
    items.value = items.value.filter((q) => q.entry.id !== id);
    if (queued.order !== undefined) await deviceStore.remove([queued.order]);
  }

  function onSettled(listener: Listener): () => void {
    listeners.add(listener);
    return () => listeners.delete(listener);
  }

  return { items, link, waiting, stuck, storageFull, load, push, drain, dismiss, onSettled };
});
