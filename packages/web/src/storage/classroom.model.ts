import type { OpenAttempt, StoredEntry } from '@clear-mark/contract';

/** Differences below this are the way over the network, not a wrong clock. */
const TOLERATED_MS = 2000;

/** How far the server is ahead of this device, ms; 0 when within two seconds. */
export function offsetOf(serverNow: string, deviceNow: number): number {
  const offset = Date.parse(serverNow) - deviceNow;
  return Math.abs(offset) <= TOLERATED_MS ? 0 : offset;
}

/** The last sequence number known of each open attempt; those that the server has not heard of yet are left out. */
export function knownOf(
  attempts: ReadonlyMap<string, OpenAttempt>,
  startedHere: ReadonlySet<string>,
): Record<string, number> {
  const known: Record<string, number> = {};
  for (const [id, { entries }] of attempts) {
    if (!startedHere.has(id)) known[id] = lastWithoutGap(entries.map((e) => e.seq));
  }
  return known;
}

/** The last of 1, 2, 3, ... that is there without one missing before it. */
function lastWithoutGap(seqs: readonly number[]): number {
  const there = new Set(seqs);
  let last = 0;
  while (there.has(last + 1)) last += 1;
  return last;
}

/**
 * What a device knows, with what the server added: entries once each and in order, ended attempts gone. The same map
 * when nothing changed, and the same attempt objects where they did not.
 */
export function merge(
  before: ReadonlyMap<string, OpenAttempt>,
  changed: readonly OpenAttempt[],
  closed: readonly string[],
): ReadonlyMap<string, OpenAttempt> {
  if (changed.length === 0 && closed.length === 0) return before;
  const next = new Map(before);
  for (const id of closed) next.delete(id);
  for (const attempt of changed) {
    const there = next.get(attempt.id);
    const seqs = new Set(there?.entries.map((e) => e.seq));
    const added = attempt.entries.filter((e) => !seqs.has(e.seq));
    if (there && added.length === 0 && there.things.length === attempt.things.length) continue;
    const entries = [...(there?.entries ?? []), ...added.map(slim)].sort((a, b) => a.seq - b.seq);
    next.set(attempt.id, { ...attempt, entries });
  }
  return next;
}

const words = new Map<string, string>();
function shared(text: string): string {
  const known = words.get(text);
  if (known !== undefined) return known;
  words.set(text, text);
  return text;
}
const NONE: string[] = [];

/** The same entry with the texts that many entries have in common held once: a class keeps thousands of them. */
function slim(entry: StoredEntry): StoredEntry {
  return {
    ...entry,
    kind: shared(entry.kind) as StoredEntry['kind'],
    criterionId: entry.criterionId === null ? null : shared(entry.criterionId),
    part: shared(entry.part),
    authorId: shared(entry.authorId),
    capacity: shared(entry.capacity) as StoredEntry['capacity'],
    deviceId: shared(entry.deviceId),
    source: shared(entry.source) as StoredEntry['source'],
    supersedes: entry.supersedes.length === 0 ? NONE : entry.supersedes,
  };
}
