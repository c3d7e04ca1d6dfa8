import type { OpenAttempt, StoredEntry } from '@clear-mark/contract';

/** Differences below this are the way over the network, not a wrong clock. */
const TOLERATED_MS = 2000;

/** How far the server is ahead of this device, ms; 0 when within two seconds. */
export function offsetOf(serverNow: string, deviceNow: number): number {
  const offset = Date.parse(serverNow) - deviceNow;
  return Math.abs(offset) <= TOLERATED_MS ? 0 : offset;
}

/** An open attempt as this device keeps it. */
export interface KeptAttempt extends OpenAttempt {
  /** The last of 1, 2, 3, ... that is known without one missing before it. */
  readonly lastSeq: number;
  /** Ids, 36 characters each, of entries that were seen and let go of: they cannot count any more. */
  readonly buried: string;
}

export const ID_LENGTH = 36;

/** As it came from the server, or from the device's copy. */
export function kept(attempt: OpenAttempt & Partial<KeptAttempt>): KeptAttempt {
  const buried = attempt.buried ?? '';
  return { ...attempt, buried, lastSeq: lastWithoutGap(attempt.lastSeq ?? 0, attempt.entries) };
}

/** Every entry that this device has seen of an attempt: what a signature names. */
export function seenIds(attempt: KeptAttempt): string[] {
  const ids = attempt.entries.map((e) => e.id);
  for (let at = 0; at < attempt.buried.length; at += ID_LENGTH)
    ids.push(attempt.buried.slice(at, at + ID_LENGTH));
  return ids;
}

/**
 * From where each open attempt is asked for; those that the server has not heard of yet are left out. From the beginning
 * where something that was let go of may count again, since what superseded it was taken back.
 */
export function knownOf(
  attempts: ReadonlyMap<string, KeptAttempt>,
  startedHere: ReadonlySet<string>,
): Record<string, number> {
  const known: Record<string, number> = {};
  for (const [id, attempt] of attempts) {
    if (!startedHere.has(id)) known[id] = mayCountAgain(attempt) ? 0 : attempt.lastSeq;
  }
  return known;
}

function lastWithoutGap(from: number, entries: readonly StoredEntry[]): number {
  const there = new Set(entries.map((e) => e.seq));
  let last = from;
  while (there.has(last + 1)) last += 1;
  return last;
}

/** A taken-back entry had superseded one that is not kept. */
export function mayCountAgain(attempt: KeptAttempt): boolean {
  if (attempt.buried === '') return false;
  const targets = new Set(attempt.entries.flatMap((e) => (e.kind === 'retract' ? [e.targetId] : [])));
  if (targets.size === 0) return false;
  const there = new Set(attempt.entries.map((e) => e.id));
  return attempt.entries.some((e) => targets.has(e.id) && e.supersedes.some((id) => !there.has(id)));
}

/**
 * What a device knows, with what the server added: entries once each and in order, ended attempts gone. The same map
 * when nothing changed, and the same attempt objects where they did not.
 */
export function merge(
  before: ReadonlyMap<string, KeptAttempt>,
  changed: readonly OpenAttempt[],
  closed: readonly string[],
  ownDevice: string,
): ReadonlyMap<string, KeptAttempt> {
  if (changed.length === 0 && closed.length === 0) return before;
  const next = new Map(before);
  for (const id of closed) next.delete(id);
  for (const attempt of changed) {
    const there = next.get(attempt.id);
    // Asked for from the beginning, so that what was let go of comes back.
    const whole = there && mayCountAgain(there) && attempt.entries.some((e) => e.seq === 1);
    const base: KeptAttempt = there && !whole ? there : { ...attempt, entries: [], buried: '', lastSeq: 0 };
    const grown = withEntries({ ...attempt, ...pick(base) }, attempt.entries, ownDevice);
    if (there && !whole && grown.entries === base.entries && there.things.length === attempt.things.length)
      continue;
    next.set(attempt.id, grown);
  }
  return next;
}

const pick = ({ entries, lastSeq, buried }: KeptAttempt) => ({ entries, lastSeq, buried });

/** The attempt with entries that came, each once; the same list of entries where none was new. */
export function withEntries(
  attempt: KeptAttempt,
  came: readonly StoredEntry[],
  ownDevice: string,
): KeptAttempt {
  const seqs = new Set(attempt.entries.map((e) => e.seq));
  const added = came.filter((e) => e.seq > attempt.lastSeq && !seqs.has(e.seq));
  if (added.length === 0) return attempt;
  const all = [...attempt.entries, ...added.map(slim)].sort((a, b) => a.seq - b.seq);
  const lastSeq = lastWithoutGap(attempt.lastSeq, all);
  const { entries, gone } = letGo(all, ownDevice);
  return { ...attempt, entries, lastSeq, buried: attempt.buried + gone.join('') };
}

/**
 * Lets go of entries that cannot count any more: superseded by one that is superseded itself, both witnessed and neither
 * taken back, so that a single undo still finds what it restores. Entries of this device stay, since its person may
 * undo them one after the other, and so does whatever still keeps an older one from counting.
 */
function letGo(all: StoredEntry[], ownDevice: string): { entries: StoredEntry[]; gone: string[] } {
  const takenBack = new Set(all.flatMap((e) => (e.kind === 'retract' ? [e.targetId] : [])));
  const by = new Map<string, StoredEntry[]>();
  for (const e of all) {
    if (takenBack.has(e.id) || e.capacity === 'trainee') continue;
    for (const id of e.supersedes) by.set(id, [...(by.get(id) ?? []), e]);
  }
  const gone = new Set<string>();
  const there = new Set(all.map((e) => e.id));
  for (const e of all) {
    const sure = by.get(e.id)?.some((f) => by.has(f.id)) ?? false;
    if (!sure || e.deviceId === ownDevice || takenBack.has(e.id)) continue;
    if (e.supersedes.some((id) => there.has(id) && !gone.has(id))) continue;
    gone.add(e.id);
  }
  if (gone.size === 0) return { entries: all, gone: [] };
  return { entries: all.filter((e) => !gone.has(e.id)), gone: [...gone] };
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
