import type { Capacity, Entry, EntryKind, EntryValue, ReadingVoidReason } from '../scoring/index.ts';

/**
 * An entry as scoring needs it, without who made it on which device: kind, criterion, part, value, reason of a void, capacity,
 * instant in ms corrected by the device's clock, positions of what it supersedes, position of what it retracts.
 */
export type PackedEntry = readonly [
  kind: EntryKind,
  criterionId: string | null,
  part: string,
  value: EntryValue | null,
  voidReason: ReadingVoidReason | null,
  capacity: Capacity,
  atMs: number,
  supersedes: readonly number[],
  target: number,
];

/** Kinds that no score looks at. */
const BESIDE: readonly EntryKind[] = ['note', 'hand', 'timer', 'dismiss'];

/**
 * The entries of one attempt as small as scoring allows: ids become positions, what no score looks at is left out. Input: in
 * the order of their sequence numbers. Example: an entry that supersedes the first one names position 0.
 */
export function packEntries(entries: readonly Entry[]): PackedEntry[] {
  const kept = entries.filter((e) => !BESIDE.includes(e.kind));
  const at = new Map(kept.map((e, i) => [e.id, i]));
  return kept.map((e) => [
    ...([e.kind, e.criterionId, e.part, e.value, e.voidReason, e.capacity] as const),
    Date.parse(e.at) + (e.clockOffsetMs ?? 0),
    e.supersedes.flatMap((id) => at.get(id) ?? []),
    (e.targetId === null ? undefined : at.get(e.targetId)) ?? -1,
  ]);
}

const idOf = (position: number): string => `e${String(position).padStart(6, '0')}`;

/** Entries that score as the packed ones did; ids, author and device are made up. */
export function unpackEntries(packed: readonly PackedEntry[]): Entry[] {
  return packed.map(
    ([kind, criterionId, part, value, voidReason, capacity, atMs, supersedes, target], i): Entry => ({
      id: idOf(i),
      kind,
      criterionId,
      part,
      value,
      voidReason,
      note: null,
      authorId: '',
      capacity,
      deviceId: '',
      source: 'typed',
      at: new Date(atMs).toISOString(),
      supersedes: supersedes.map(idOf),
      targetId: target < 0 ? null : idOf(target),
    }),
  );
}
