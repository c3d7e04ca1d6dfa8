import type { CatchUp, ClassReference, EntriesNews, OpenAttempt, StoredEntry } from '@clear-mark/contract';
import { classChanged } from '../api/queries.ts';
import { useSession } from '../session/session.ts';
import { useQueue } from '../storage/queue.ts';
import type { classCopy } from './class-copy.ts';
import type { ClassState } from './class-state.ts';
import { kept, merge, offsetOf, withEntries, withNews } from './classroom.model.ts';

/** How what comes in is put into what is known: replies of the server, the stream, and what this device made itself. */
export function classReplies(state: ClassState, copy: ReturnType<typeof classCopy>) {
  const queue = useQueue();
  const session = useSession();
  const { attempts, references } = state;

  /** Entries as the stream brings them. False: something is missing before them, so the server is to be asked. */
  function hear(news: EntriesNews): boolean {
    state.offsetMs.value = offsetOf(news.now, Date.now());
    const { attempts: next, ask: missing } = withNews(attempts.value, news, session.deviceId);
    if (next !== attempts.value) {
      attempts.value = next;
      copy.keepSoon();
    }
    return !missing;
  }

  /** A reply of the server. False: an attempt of it is incomplete, so the server is to be asked again. */
  async function put(reply: CatchUp): Promise<boolean> {
    state.offsetMs.value = offsetOf(reply.now, Date.now());
    state.day.value = reply.day;
    putReferences(reply.references);
    if (reply.tiles) state.tiles.value = reply.tiles;
    // A piece that is closed counts in every view of the class.
    if (reply.closed.length > 0) classChanged(state.classId.value);
    const before = attempts.value;
    const next = merge(before, reply.attempts, reply.closed, session.deviceId);
    const whole = !reply.attempts.some((a) => next.get(a.id)?.incomplete);
    const opensNew = reply.attempts.some((a) => !before.has(a.id));
    // What is open already shows what is newer at once.
    if (!opensNew) attempts.value = next;
    // What can be opened from now on is on the device first: the network may be gone a second later.
    if (!copy.isThere() || opensNew) await copy.keepNow({ attempts: [...next.values()] });
    else copy.keepSoon();
    // Entries may have come by the stream while it was written.
    if (opensNew && next !== before) {
      attempts.value =
        attempts.value === before
          ? next
          : merge(attempts.value, reply.attempts, reply.closed, session.deviceId);
    }
    return whole;
  }

  function putReferences(said: readonly ClassReference[]): void {
    const there = new Set(said.map((r) => r.id));
    const onTheWay = new Set(queue.items.flatMap((q) => (q.reference ? [q.id] : [])));
    references.value = [...references.value.filter((r) => onTheWay.has(r.id) && !there.has(r.id)), ...said];
  }

  /** A piece that was started on this device, before the server knows of it. */
  function adopt(attempt: OpenAttempt): void {
    attempts.value = new Map([[attempt.id, kept(attempt)], ...attempts.value]);
    // Nobody else knows of it yet: kept at once.
    void copy.keepNow();
  }

  /** An entry of this device that the server has acknowledged. */
  function settle(attemptId: string, entry: StoredEntry): void {
    const attempt = attempts.value.get(attemptId);
    if (!attempt || attempt.entries.some((e) => e.id === entry.id)) return;
    attempts.value = new Map(attempts.value).set(attemptId, withEntries(attempt, [entry], session.deviceId));
    copy.keepSoon();
  }
  queue.onSettled((entry, receipt) => {
    if (receipt.state !== 'accepted') return;
    const { attemptId, ...stored } = entry;
    const at = receipt.at ?? stored.at;
    const claimed = receipt.at === undefined ? {} : { claimedAt: stored.at };
    const clockOffsetMs = state.offsetMs.value;
    settle(attemptId, { ...stored, at, ...claimed, seq: receipt.seq, clockOffsetMs });
  });

  function addReference(reference: ClassReference): void {
    references.value = [reference, ...references.value.filter((r) => r.id !== reference.id)];
    copy.keepSoon();
  }

  /** Pieces of this device that the server has not heard of yet. */
  const startedHere = (): ReadonlySet<string> =>
    new Set(queue.items.flatMap((q) => (q.start && q.state === 'waiting' ? [q.start.body.id] : [])));

  return { hear, put, adopt, addReference, startedHere };
}
