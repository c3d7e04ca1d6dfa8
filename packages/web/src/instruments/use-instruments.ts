import {
  EVENT_PATHS,
  type InstrumentEvent,
  type InstrumentKind,
  type InstrumentOrder,
} from '@clear-mark/contract';
import { defineStore } from 'pinia';
import { computed, onScopeDispose, ref, shallowRef } from 'vue';
import { request, pathOf, Refusal, ROUTES, wordsOf } from '../api/client.ts';
import { type EventStream, openEventStream } from '../api/event-stream.ts';
import { useSession } from '../session/session.ts';
import { fresh, heard, type LiveInstrument } from './instruments.model.ts';

const ASK_AGAIN_MS = 4000;

/**
 * The instruments of a class that are reached over the network, as they show themselves at present. One stream for the
 * page, open while anybody follows.
 */
export const useInstruments = defineStore('instruments', () => {
  const session = useSession();
  const classId = ref('');
  const live = shallowRef<ReadonlyMap<string, LiveInstrument>>(new Map());
  let source: EventStream | null = null;
  let followers = 0;
  let watch: ReturnType<typeof setInterval> | null = null;

  /** Follows a class's instruments until the scope ends. */
  function follow(id: string): void {
    followers += 1;
    if (classId.value !== id) {
      close();
      classId.value = id;
      void open();
    }
    onScopeDispose(() => {
      followers -= 1;
      if (followers > 0) return;
      close();
      classId.value = '';
    });
  }
  /** The list anew, such as after a setting was changed. */
  async function open(): Promise<void> {
    const id = classId.value;
    if (id === '') return;
    const list = await request(ROUTES.instruments, { params: { id } }).catch(() => null);
    if (classId.value !== id) return;
    watch ??= setInterval(() => {
      if (source === null || source.isClosed()) void open();
    }, ASK_AGAIN_MS);
    if (!list) return;
    live.value = new Map(
      list.map((i) => [
        i.thingId,
        { ...(live.value.get(i.thingId) ?? fresh(i)), instrument: i, claim: i.claim },
      ]),
    );
    source?.close();
    source = null;
    if (list.length === 0) return;
    const path = pathOf(EVENT_PATHS.instruments, { id });
    source = openEventStream(path, (data) => take(JSON.parse(data) as InstrumentEvent));
  }
  function close(): void {
    source?.close();
    source = null;
    if (watch) clearInterval(watch);
    watch = null;
    live.value = new Map();
  }
  function take(event: InstrumentEvent): void {
    const before = live.value.get(event.thingId);
    if (before) live.value = new Map(live.value).set(event.thingId, heard(before, event));
  }

  const all = computed(() => [...live.value.values()]);
  const ofKind = (kind: InstrumentKind): LiveInstrument[] =>
    all.value.filter((l) => l.instrument.kind === kind);

  /** Null when it was done, otherwise the words of the refusal. */
  async function order(thingId: string, what: InstrumentOrder): Promise<string | null> {
    try {
      await request(ROUTES.orderInstrument, { params: { id: classId.value, thingId }, body: what });
      return null;
    } catch (error) {
      return wordsOf(error);
    }
  }

  /** Takes an instrument for a sheet: `taken`, or who has it. */
  async function claim(
    thingId: string,
    attemptId: string,
    takeOver: boolean,
  ): Promise<{ readonly taken: boolean; readonly words: string | null; readonly inUse: boolean }> {
    try {
      const body = { attemptId, deviceId: session.deviceId, takeOver };
      await request(ROUTES.claimInstrument, { params: { id: classId.value, thingId }, body });
      return { taken: true, words: null, inUse: false };
    } catch (error) {
      const inUse = error instanceof Refusal && error.code === 'instrument.in_use';
      return { taken: false, words: wordsOf(error), inUse };
    }
  }
  async function release(thingId: string): Promise<void> {
    const params = { id: classId.value, thingId, deviceId: session.deviceId };
    await request(ROUTES.releaseInstrument, { params }).catch(() => undefined);
  }

  return { classId, live, all, ofKind, follow, open, order, claim, release };
});
