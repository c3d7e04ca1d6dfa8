import { shallowRef, type ShallowRef } from 'vue';
import { Refusal } from '../api/client.ts';
import type { Queued } from './device-store.ts';
import { afterFailure, afterSuccess, restsWith } from './queue.model.ts';

const BATCH = 200;
const FIRST_WAIT_MS = 1000;
const LONGEST_WAIT_MS = 10_000;
/** How long what the server failed on rests before it is tried again; what is beside it goes on meanwhile. */
const REST_MS = 20_000;
/** Failures of one item by itself before it rests. */
const FAILURES = 2;

export type DeliveryState = 'idle' | 'sending' | 'no_server' | 'signed_out';

export interface Delivery {
  readonly state: ShallowRef<DeliveryState>;
  /** Sends what can be sent, in order; one at a time however often it is asked for. */
  readonly drain: () => Promise<void>;
  /** What hangs together with this rests for a while; the rest of the queue goes on. */
  readonly rest: (queued: Queued, why: string) => void;
  /** Why an item rests at present; null when it does not. */
  readonly restsWhy: (queued: Queued) => string | null;
}

/**
 * How what waits goes out: in batches that become smaller where the server fails on one, down to a single item, which rests
 * then; with waits that become longer where no server answers. `next` gives at most so many that may go, `send` throws
 * what went wrong.
 */
export function deliveryOf(
  next: (most: number, resting: ReadonlySet<string>) => readonly Queued[],
  send: (batch: readonly Queued[]) => Promise<void>,
): Delivery {
  const state = shallowRef<DeliveryState>('idle');
  const resting = shallowRef<ReadonlyMap<string, string>>(new Map());
  let wait = FIRST_WAIT_MS;
  let timer: ReturnType<typeof setTimeout> | null = null;
  let sending = false;
  let size = BATCH;
  let failures = 0;
  const ready = (most: number): readonly Queued[] => next(most, new Set(resting.value.keys()));

  async function drain(): Promise<void> {
    if (sending) return;
    if (timer) clearTimeout(timer);
    timer = null;
    sending = true;
    try {
      for (;;) {
        const batch = ready(size);
        if (batch.length === 0 || !(await attempt(batch))) break;
      }
    } finally {
      sending = false;
    }
    if (state.value === 'no_server' && ready(1).length > 0) {
      timer = setTimeout(() => void drain(), wait);
      wait = Math.min(wait * 2, LONGEST_WAIT_MS);
    }
  }

  async function attempt(batch: readonly Queued[]): Promise<boolean> {
    state.value = state.value === 'no_server' ? 'no_server' : 'sending';
    try {
      await send(batch);
      state.value = 'idle';
      wait = FIRST_WAIT_MS;
      failures = 0;
      size = afterSuccess(size, BATCH);
      return true;
    } catch (error) {
      // Whatever went wrong, everything stays and is tried again.
      const refusal = error instanceof Refusal ? error : null;
      state.value = refusal?.status === 401 ? 'signed_out' : 'no_server';
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
  const restsWhy = (queued: Queued): string | null =>
    queued.state === 'waiting' ? (resting.value.get(restsWith(queued)) ?? null) : null;
  return { state, drain, rest, restsWhy };
}
