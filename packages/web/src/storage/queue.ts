import type { AttemptEntry, EntryReceipt, NewAttemptBody } from '@clear-mark/contract';
import { defineStore } from 'pinia';
import { v7 } from 'uuid';
import { computed, shallowRef } from 'vue';
import { request, Refusal, ROUTES } from '../api/client.ts';
import { deviceStore, type NewQueued, type Queued } from './device-store.ts';
import { deliveryOf } from './delivery.ts';
import { mended, nextToSend } from './queue.model.ts';
import { seal, unseal } from './seal.ts';

type Listener = (entry: AttemptEntry, receipt: EntryReceipt) => void;

/**
 * What is on its way to the server: entries, started pieces, references. Each is kept on the device first, sent in
 * order, and leaves only when it was acknowledged. Refused ones stay, with the reason. What another person left on
 * this device is handed in by an instructor, and stays that person's.
 */
export const useQueue = defineStore('queue', () => {
  const items = shallowRef<readonly Queued[]>([]);
  const storageFull = shallowRef(false);
  const listeners = new Set<Listener>();
  let who: { readonly id: string; readonly teaches: boolean } | null = null;
  const waiting = computed(() => items.value.filter((q) => q.state === 'waiting').length);
  const stuck = computed(() => items.value.filter((q) => q.state !== 'waiting'));
  const {
    state: delivery,
    drain,
    rest,
    restsWhy,
  } = deliveryOf(
    (most, resting) => nextToSend(items.value, who, most, resting),
    (batch) => (batch[0]!.entry === null ? sendOne(batch[0]!) : sendEntries(batch)),
  );

  async function load(person: { readonly id: string; readonly teaches: boolean } | null): Promise<void> {
    who = person;
    items.value = await deviceStore.all();
    void drain();
  }

  /** Shown at once, kept on the device at once, sent as soon as the server answers. */
  async function put(given: NewQueued): Promise<void> {
    const shown: Queued = { ...given, state: 'waiting', detail: null };
    items.value = [...items.value, shown];
    try {
      const kept = await deviceStore.add(given);
      items.value = items.value.map((q) => (q === shown ? kept : q));
    } catch {
      // No room on the device: it stays in this page, and the person is told.
      storageFull.value = true;
    }
    void drain();
  }
  const push = (entry: AttemptEntry): Promise<void> => put({ entry, id: entry.id, authorId: entry.authorId });
  const pushStart = (classId: string, body: NewAttemptBody, authorId: string): Promise<void> =>
    put({ entry: null, start: { classId, body }, id: body.id, authorId });
  const pushReference = (given: NonNullable<Queued['reference']>, authorId: string): Promise<void> =>
    put({ entry: null, reference: given, id: given.body.id, authorId });

  async function sendEntries(batch: readonly Queued[]): Promise<void> {
    const body = { entries: batch.map((q) => q.entry), sentAt: new Date().toISOString() };
    const { receipts } = await request(ROUTES.sendEntries, { body });
    await settle(receipts);
  }

  /** A refusal is kept with its reason; what hangs on it will say so as well. */
  async function sendOne(queued: Queued): Promise<void> {
    try {
      await sendAlone(queued);
      await leave([queued]);
    } catch (error) {
      if (!(error instanceof Refusal) || [401, 429].includes(error.status) || error.status >= 500)
        throw error;
      await keep({ ...queued, state: 'refused', detail: error.message });
    }
  }

  async function settle(receipts: readonly EntryReceipt[]): Promise<void> {
    const byId = new Map(receipts.map((r) => [r.id, r]));
    const answered = items.value.filter((q) => q.entry !== null && byId.has(q.id));
    const accepted = answered.filter((q) => byId.get(q.id)!.state === 'accepted');
    for (const q of answered) {
      for (const listener of listeners) listener(q.entry!, byId.get(q.id)!);
    }
    await leave(accepted);
    for (const q of answered) {
      const receipt = byId.get(q.id)!;
      if (receipt.state === 'later') rest(q, receipt.detail);
      else if (receipt.state !== 'accepted')
        await keep({ ...q, state: receipt.state, detail: receipt.detail });
    }
  }

  async function leave(gone: readonly Queued[]): Promise<void> {
    const ids = new Set(gone.map((q) => q.id));
    // The store may have given an order meanwhile: what it knows now is removed.
    const orders = items.value.flatMap((q) => (ids.has(q.id) && q.order !== undefined ? [q.order] : []));
    items.value = items.value.filter((q) => !ids.has(q.id));
    if (orders.length > 0) await deviceStore.remove(orders);
  }

  async function keep(changed: Queued): Promise<void> {
    items.value = items.value.map((q) => (q.id === changed.id ? changed : q));
    if (changed.order !== undefined) await deviceStore.change(changed);
  }

  /** Takes a refused entry off the list, after the person has read why. */
  async function dismiss(id: string): Promise<void> {
    const queued = items.value.find((q) => q.id === id);
    if (queued && queued.state !== 'waiting') await leave([queued]);
  }

  /** A refused entry, put right by its author: it goes out anew, and the refused one is gone from here. */
  async function mend(id: string, text: string): Promise<void> {
    const queued = items.value.find((q) => q.id === id);
    if (!queued?.entry || queued.state === 'waiting') return;
    await push(mended(queued.entry, text, v7()));
    await leave([queued]);
  }

  /**
   * The person leaves this device: what can still be sent is sent, what cannot is sealed for the next sign-in of the same
   * person, and nothing else of the class stays readable here.
   */
  async function leaveDevice(deviceKey: string | null): Promise<void> {
    await drain();
    if (!who) return;
    await sealUnsent(
      who.id,
      items.value.filter((q) => q.authorId === who!.id),
      deviceKey,
    );
  }
  /** What this person had left unsent comes back into the queue. */
  const comeBack = unsealUnsent;

  function onSettled(listener: Listener): () => void {
    listeners.add(listener);
    return () => listeners.delete(listener);
  }

  return {
    items,
    delivery,
    waiting,
    stuck,
    storageFull,
    load,
    push,
    pushStart,
    pushReference,
    drain,
    dismiss,
    mend,
    restsWhy,
    leaveDevice,
    comeBack,
    onSettled,
  };
});

/** A started piece or a reference, which go by themselves. */
async function sendAlone({ start, reference }: Queued): Promise<void> {
  const sentAt = new Date().toISOString();
  if (start) {
    await request(ROUTES.startAttempt, { params: { id: start.classId }, body: { ...start.body, sentAt } });
  } else if (reference) {
    const body = { ...reference.body, sentAt };
    await request(ROUTES.addReference, { params: { id: reference.classId }, body });
  }
}

/** Locks what a person leaves unsent on this device. Without a key nothing could be opened again: it stays as it is then. */
async function sealUnsent(personId: string, own: readonly Queued[], deviceKey: string | null): Promise<void> {
  const sealed = own.length === 0 || deviceKey === null ? null : await seal(JSON.stringify(own), deviceKey);
  const orders = sealed === null && own.length > 0 ? [] : own.flatMap((q) => q.order ?? []);
  await deviceStore.clearFor(personId, sealed, orders);
}
async function unsealUnsent(personId: string, deviceKey: string | null): Promise<void> {
  const sealed = deviceKey === null ? null : await deviceStore.sealed(personId);
  const text = sealed === null ? null : await unseal(sealed, deviceKey!);
  if (text !== null) await deviceStore.putBack(personId, JSON.parse(text) as Queued[]);
}
