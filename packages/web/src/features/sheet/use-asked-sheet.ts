import { EVENT_PATHS } from '@clear-mark/contract';
import { onScopeDispose, ref, shallowRef } from 'vue';
import { NoServer, pathOf, request, ROUTES, wordsOf } from '../../api/client.ts';
import { type EventStream, openEventStream } from '../../api/event-stream.ts';
import { deviceStore } from '../../storage/device-store.ts';
import { useQueue } from '../../storage/queue.ts';
import { lastSeq, type SyncEvent, type SyncState, syncStep } from './sheet-sync.model.ts';

/**
 * An attempt that the server is asked for: a signed one, or a trainee's own. Kept on the device while it is open, and up to
 * date by its stream of changes; what comes of an event is decided by `syncStep`.
 */
export function useAskedSheet(attemptId: string) {
  const state = shallowRef<SyncState>(null);
  const failure = ref<string | null>(null);
  let stream: EventStream | null = null;

  function send(event: SyncEvent): void {
    const { state: next, effects } = syncStep(state.value, event);
    state.value = next;
    for (const effect of effects) {
      if (effect === 'load') void load();
      else stream ??= openEventStream(pathOf(EVENT_PATHS.attempt, { id: attemptId }), () => void catchUp());
    }
  }

  async function load(): Promise<void> {
    try {
      const document = await request(ROUTES.attempt, { params: { id: attemptId } });
      // On the device before it is on the screen: the network may be gone a second later.
      const keep =
        document.attempt.state === 'open'
          ? deviceStore.keepDocument(document)
          : deviceStore.dropDocument(attemptId);
      await keep.catch(() => undefined);
      failure.value = null;
      send({ on: 'given', document });
    } catch (error) {
      failure.value = wordsOf(error);
      const lost = error instanceof NoServer && !state.value;
      const document = lost ? await deviceStore.document(attemptId).catch(() => null) : null;
      if (!document) return;
      failure.value = null;
      send({ on: 'given', document });
    }
  }
  async function catchUp(): Promise<void> {
    if (!state.value) return;
    const question = { params: { id: attemptId }, query: { after: lastSeq(state.value) } };
    // Where no answer comes, the next notification asks again.
    const changes = await request(ROUTES.attemptChanges, question).catch(() => null);
    if (changes) send({ on: 'changed', changes, heardAt: Date.now() });
  }

  const unhear = useQueue().onSettled((entry, receipt) => {
    if (entry.attemptId !== attemptId) return;
    const { attemptId: _, ...stored } = entry;
    send({ on: 'settled', entry: stored, receipt });
  });
  onScopeDispose(() => {
    unhear();
    stream?.close();
  });
  return { state, failure, load, send };
}
