import type { Entry } from './types.ts';

export interface ResolvedSlot {
  /** Entries that stand: one, or two and more in conflict. */
  readonly heads: readonly Entry[];
  /** Standing entries that no instructor witnessed. */
  readonly proposals: readonly Entry[];
}

/** The part under which a charge stands beside the result of its criterion. */
export const CHARGE_PART = 'charge';

/** The parts under which a raised hand and a running timer stand. */
export const HAND_PART = 'hand';
export const TIMER_PART = 'timer';

/** The part under which a stop of the whole piece stands, at the criterion that was at hand. */
export const STOP_PART = 'stop';

/** The part under which a dismissed suggestion stands: one for each symptom and cause. */
export const dismissPart = (symptom: string, cause: string): string => `no ${symptom} ${cause}`;

/** Key of a criterion's part. The separator cannot occur in a criterion id. */
export const slotKey = (criterionId: string, part: string): string => `${criterionId} ${part}`;

const witnessed = (entry: Entry): boolean => entry.capacity !== 'trainee';

/**
 * Which entries count, for every criterion and part.
 *
 * An entry supersedes exactly the ids that it names; a retraction takes its target away and so restores
 * what the target had superseded; a retraction can be retracted. An unwitnessed entry neither supersedes
 * nor retracts a witnessed one. Entries that do not know of each other all stand: a conflict.
 * The order of the input does not matter. Domain: any list of entries; ids that are not in it are ignored.
 * Example: A, then B naming A, then a retraction of B leaves A standing.
 */
export function resolveEntries(entries: readonly Entry[]): Map<string, ResolvedSlot> {
  const byId = new Map<string, Entry>();
  const retractions = new Map<string, Entry[]>();
  const slots = new Map<string, Entry[]>();
  for (const entry of entries) {
    if (byId.has(entry.id)) continue;
    byId.set(entry.id, entry);
    if (entry.kind === 'note') continue;
    if (entry.kind === 'retract') {
      if (entry.targetId !== null) push(retractions, entry.targetId, entry);
    } else if (entry.criterionId !== null) {
      push(slots, slotKey(entry.criterionId, entry.part), entry);
    }
  }
  const isLive = liveness(retractions);
  const resolved = new Map<string, ResolvedSlot>();
  for (const [key, slot] of slots) resolved.set(key, resolveSlot(slot, byId, isLive));
  return resolved;
}

function push(map: Map<string, Entry[]>, key: string, entry: Entry): void {
  const list = map.get(key);
  if (list) list.push(entry);
  else map.set(key, [entry]);
}

/** Live unless a live retraction names it. A ring of retractions, which no device makes, counts as dead. */
function liveness(retractions: ReadonlyMap<string, readonly Entry[]>): (entry: Entry) => boolean {
  const known = new Map<string, boolean>();
  const isLive = (entry: Entry): boolean => {
    const against = retractions.get(entry.id);
    if (!against) return true;
    const before = known.get(entry.id);
    if (before !== undefined) return before;
    known.set(entry.id, false);
    const live = !against.some((r) => (witnessed(r) || !witnessed(entry)) && isLive(r));
    known.set(entry.id, live);
    return live;
  };
  return isLive;
}

function resolveSlot(
  slot: readonly Entry[],
  byId: ReadonlyMap<string, Entry>,
  isLive: (entry: Entry) => boolean,
): ResolvedSlot {
  const superseded = new Set<string>();
  const live = slot.filter(isLive);
  for (const entry of live) {
    for (const id of entry.supersedes) {
      const target = byId.get(id);
      if (id !== entry.id && target && (witnessed(entry) || !witnessed(target))) superseded.add(id);
    }
  }
  const standing = live.filter((entry) => !superseded.has(entry.id));
  if (standing.length > 1) standing.sort((a, b) => (a.id < b.id ? -1 : 1));
  return { heads: standing.filter(witnessed), proposals: standing.filter((entry) => !witnessed(entry)) };
}
