import type { AttemptEntry, EntryReceipt, NewAttemptBody } from '@clear-mark/contract';
import { defineStore } from 'pinia';
import { v7 } from 'uuid';
import { computed, shallowRef } from 'vue';
import { request, Refusal, ROUTES } from '../api/client.ts';
import { deviceStore, type NewQueued, type Queued } from './device-store.ts';
import { afterFailure, afterSuccess, mended, nextToSend, restsWith } from './queue.model.ts';
import { seal, unseal } from './seal.ts';

const BATCH = 200;
const FIRST_WAIT_MS = 1000;
const LONGEST_WAIT_MS = 10_000;
/** How long what the server failed on rests before it is tried again; what is beside it goes on meanwhile. */
const REST_MS = 20_000;
/** Failures of one item by itself before it rests. */
const FAILURES = 2;

export type DeliveryState = 'idle' | 'sending' | 'no_server' | 'signed_out';
type Listener = (entry: AttemptEntry, receipt: EntryReceipt) => void;

/**
 * What is on its way to the server: entries, started pieces, references. Each is kept on the device first, sent in
 * order, and leaves only when it was acknowledged. Refused ones stay, with the reason. What another person left on
 * this device is handed in by an instructor, and stays that person's.
 */
export const useQueue = defineStore('queue', () => {
  const items = shallowRef<readonly Queued[]>([]);
  const delivery = shallowRef<DeliveryState>('idle');
  const storageFull = shallowRef(false);
  const listeners = new Set<Listener>();
  let who: { readonly id: string; readonly teaches: boolean } | null = null;
  let wait = FIRST_WAIT_MS;
  let timer: ReturnType<typeof setTimeout> | null = null;
  let sending = false;
  let size = BATCH;
  let failures = 0;
  const resting = shallowRef<ReadonlyMap<string, string>>(new Map());

  const waiting = computed(() => items.value.filter((q) => q.state === 'waiting').length);
  const stuck = computed(() => items.value.filter((q) => q.state !== 'waiting'));
  const next = (most: number): readonly Queued[] =>
    nextToSend(items.value, who, most, new Set(resting.value.keys()));

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

  async function drain(): Promise<void> {
    if (sending) return;
    if (timer) clearTimeout(timer);
    timer = null;
    sending = true;
    try {
      for (;;) {
        const batch = next(size);
        if (batch.length === 0 || !(await send(batch))) break;
      }
    } finally {
      sending = false;
    }
    if (delivery.value === 'no_server' && next(1).length > 0) {
      timer = setTimeout(() => void drain(), wait);
      wait = Math.min(wait * 2, LONGEST_WAIT_MS);
    }
  }

  async function send(batch: readonly Queued[]): Promise<boolean> {
    delivery.value = delivery.value === 'no_server' ? 'no_server' : 'sending';
    try {
      const [first] = batch;
      if (first!.entry === null) await sendOne(first!);
      else await sendEntries(batch);
      delivery.value = 'idle';
      wait = FIRST_WAIT_MS;
      failures = 0;
      size = afterSuccess(size, BATCH);
      return true;
    } catch (error) {
      // Whatever went wrong, everything stays and is tried again.
      const refusal = error instanceof Refusal ? error : null;
      delivery.value = refusal?.status === 401 ? 'signed_out' : 'no_server';
      return refusal !== null && refusal.status !== 401 && goesOn(batch, refusal);
    }
  }

  /** The server answered and failed on this batch: a smaller one is tried, down to one, which rests then. */
  function goesOn(batch: readonly Queued[], refusal: Refusal): boolean {
    if (refusal.status === 429) return false;
    size = afterFailure(batch.length);
    if (batch.length > 1) return true;
    failures += 1;
    if (failures < FAILURES) return false;
    failures = 0;
    rest(batch[0]!, refusal.message);
    return true;
  }
  /** What hangs together rests for a while; the rest of the queue goes on. */
  function rest(queued: Queued, why: string): void {
    const what = restsWith(queued);
    resting.value = new Map(resting.value).set(what, why);
    setTimeout(() => {
      const left = new Map(resting.value);
      left.delete(what);
      resting.value = left;
      void drain();
    }, REST_MS);
  }
  /** Why an item rests at present; null when it does not. */
  const restsWhy = (queued: Queued): string | null =>
    queued.state === 'waiting' ? (resting.value.get(restsWith(queued)) ?? null) : null;

  async function sendEntries(batch: readonly Queued[]): Promise<void> {
    const body = { entries: batch.map((q) => q.entry), sentAt: new Date().toISOString() };
    const { receipts } = await request(ROUTES.sendEntries, { body });
    await settle(receipts);
  }

  /** A started piece or a reference. A refusal is kept with its reason; what hangs on it will say so as well. */
  async function sendOne(queued: Queued): Promise<void> {
    try {
      if (queued.start) {
        const { classId, body } = queued.start;
        const now = { ...body, sentAt: new Date().toISOString() };
        await request(ROUTES.startAttempt, { params: { id: classId }, body: now });
      } else if (queued.reference) {
        const { classId, body } = queued.reference;
        const now = { ...body, sentAt: new Date().toISOString() };
        await request(ROUTES.addReference, { params: { id: classId }, body: now });
      }
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
    const own = items.value.filter((q) => q.authorId === who!.id);
    const sealed = own.length === 0 || deviceKey === null ? null : await seal(JSON.stringify(own), deviceKey);
    // Without a key nothing could be opened again: what is unsent then stays as it is.
    const orders = sealed === null && own.length > 0 ? [] : own.flatMap((q) => q.order ?? []);
    await deviceStore.clearFor(who.id, sealed, orders);
  }
  /** What this person had left unsent comes back into the queue. */
  async function comeBack(personId: string, deviceKey: string | null): Promise<void> {
    const sealed = deviceKey === null ? null : await deviceStore.sealed(personId);
    const text = sealed === null ? null : await unseal(sealed, deviceKey!);
    if (text !== null) await deviceStore.putBack(personId, JSON.parse(text) as Queued[]);
  }

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
