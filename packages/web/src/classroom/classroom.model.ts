import type { EntriesNews, OpenAttempt, StoredEntry } from '@clear-mark/contract';
import type { KeptAttempt } from '../storage/kept-attempt.ts';

/** Differences below this are the way over the network, not a wrong clock. */
const TOLERATED_MS = 2000;

/** How far the server is ahead of this device, ms; 0 when within two seconds. */
export function offsetOf(serverNow: string, deviceNow: number): number {
  const offset = Date.parse(serverNow) - deviceNow;
  return Math.abs(offset) <= TOLERATED_MS ? 0 : offset;
}

export const ID_LENGTH = 36;

/** As it came from the server, or from the device's copy. */
export function kept(attempt: OpenAttempt & Partial<KeptAttempt>): KeptAttempt {
  const { buried = '', incomplete = false, lastSeq = 0 } = attempt;
  return { ...attempt, buried, incomplete, lastSeq: lastWithoutGap(lastSeq, attempt.entries) };
}

/** Every entry that this device has seen of an attempt: what a signature names. */
export function seenIds(attempt: KeptAttempt): string[] {
  const ids = attempt.entries.map((e) => e.id);
  for (let at = 0; at < attempt.buried.length; at += ID_LENGTH) {
    ids.push(attempt.buried.slice(at, at + ID_LENGTH));
  }
  return ids;
}

/** From where each open attempt is asked for; those that the server has not heard of yet are left out. */
export function knownOf(
  attempts: ReadonlyMap<string, KeptAttempt>,
  startedHere: ReadonlySet<string>,
): Record<string, number> {
  const known: Record<string, number> = {};
  for (const [id, attempt] of attempts) {
    if (!startedHere.has(id)) known[id] = attempt.incomplete ? 0 : attempt.lastSeq;
  }
  return known;
}

function lastWithoutGap(from: number, entries: readonly StoredEntry[]): number {
  const there = new Set(entries.map((e) => e.seq));
  let last = from;
  while (there.has(last + 1)) last += 1;
  return last;
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
    const whole = there?.incomplete === true && attempt.entries.some((e) => e.seq === 1);
    const base = there && !whole ? there : { entries: [], buried: '', lastSeq: 0, incomplete: false };
    const { entries, buried, lastSeq, incomplete } = base;
    const grown = withEntries(
      { ...attempt, entries, buried, lastSeq, incomplete },
      attempt.entries,
      ownDevice,
    );
    const same = there && !whole && grown.entries === there.entries;
    if (same && there.things.length === attempt.things.length) continue;
    next.set(attempt.id, grown);
  }
  return next;
}

/**
 * What a device knows, with entries that a stream brought. `ask` where something lies between: an attempt that is not
 * known, a gap before the first that came, or one that was let go of and may count again.
 */
export function withNews(
  before: ReadonlyMap<string, KeptAttempt>,
  news: EntriesNews,
  ownDevice: string,
): { readonly attempts: ReadonlyMap<string, KeptAttempt>; readonly ask: boolean } {
  let attempts = before;
  let ask = false;
  for (const { id, entries } of news.attempts) {
    const there = attempts.get(id);
    const first = entries[0]?.seq ?? 0;
    if (!there || first > there.lastSeq + 1) {
      ask = true;
      continue;
    }
    const grown = withEntries(there, entries, ownDevice);
    ask ||= grown.incomplete;
    if (grown !== there) attempts = new Map(attempts).set(id, grown);
  }
  return { attempts, ask };
}

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
  const { entries, gone } = letGo(all, ownDevice);
  return {
    ...attempt,
    entries,
    lastSeq: lastWithoutGap(attempt.lastSeq, all),
    buried: attempt.buried + gone.join(''),
    incomplete: attempt.incomplete || bringsBack(attempt, all, added),
  };
}

/** Whether one of the added entries takes back what was let go of, or what had superseded it. */
function bringsBack(
  { buried }: KeptAttempt,
  all: readonly StoredEntry[],
  added: readonly StoredEntry[],
): boolean {
  if (buried === '') return false;
  const byId = new Map(all.map((e) => [e.id, e]));
  return added.some((e) => {
    if (e.kind !== 'retract' || e.targetId === null) return false;
    const target = byId.get(e.targetId);
    if (!target) return buried.includes(e.targetId);
    return target.supersedes.some((id) => !byId.has(id) && buried.includes(id));
  });
}

/**
 * Lets go of entries that cannot count any more: those that are superseded by one that is superseded itself, so that a
 * single undo still finds what it restores, and those that were taken back, together with what took them back. All of
 * them witnessed and of other devices, since the person of this one may undo one after the other. Whatever keeps an
 * older entry from counting stays as long as that one does.
 */
function letGo(all: StoredEntry[], ownDevice: string): { entries: StoredEntry[]; gone: string[] } {
  const sure = (e: StoredEntry): boolean => e.capacity !== 'trainee' && e.deviceId !== ownDevice;
  const byId = new Map(all.map((e) => [e.id, e]));
  const against = new Map<string, StoredEntry[]>();
  for (const e of all) if (e.kind === 'retract' && e.targetId) push(against, e.targetId, e);
  const by = new Map<string, StoredEntry[]>();
  for (const e of all) {
    if (against.has(e.id) || e.capacity === 'trainee') continue;
    for (const id of e.supersedes) push(by, id, e);
  }
  const gone = new Set<string>();
  for (const [id, retractions] of against) {
    const target = byId.get(id);
    const final = retractions.every((r) => sure(r) && !against.has(r.id));
    if (!target || target.kind === 'retract' || !sure(target) || !final) continue;
    gone.add(id);
    retractions.forEach((r) => gone.add(r.id));
  }
  for (const e of all) {
    const buried = by.get(e.id)?.some((f) => by.has(f.id)) ?? false;
    if (!buried || !sure(e) || against.has(e.id)) continue;
    if (e.supersedes.some((id) => byId.has(id) && !gone.has(id))) continue;
    gone.add(e.id);
  }
  if (gone.size === 0) return { entries: all, gone: [] };
  return { entries: all.filter((e) => !gone.has(e.id)), gone: [...gone] };
}

function push(map: Map<string, StoredEntry[]>, key: string, entry: StoredEntry): void {
  const list = map.get(key);
  if (list) list.push(entry);
  else map.set(key, [entry]);
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
