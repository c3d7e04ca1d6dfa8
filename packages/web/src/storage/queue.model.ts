import type { Queued } from './device-store.ts';

interface Person {
  readonly id: string;
  readonly teaches: boolean;
}

/**
 * What is sent next, in order: one started piece or reference, or the entries up to the next of those. An instructor
 * hands in what others left here, but never starts a piece in their name; what hangs on such a piece waits with it.
 */
export function nextToSend(items: readonly Queued[], who: Person | null, most: number): readonly Queued[] {
  if (!who) return [];
  const held = new Set(
    items.flatMap((q) =>
      q.entry === null && q.authorId !== who.id && q.state === 'waiting'
        ? [q.start?.body.id ?? '', q.reference?.body.id ?? '']
        : [],
    ),
  );
  const mine = items.filter((q) => q.state === 'waiting' && maySend(q, who, held));
  const [first] = mine;
  if (!first) return [];
  if (first.entry === null) return [first];
  const end = mine.findIndex((q) => q.entry === null);
  return mine.slice(0, Math.min(most, end < 0 ? mine.length : end));
}

function maySend(q: Queued, who: Person, held: ReadonlySet<string>): boolean {
  if (q.authorId === who.id) return true;
  if (!who.teaches || q.entry === null || held.has(q.entry.attemptId)) return false;
  return q.entry.value?.kind !== 'loss' || !held.has(q.entry.value.referenceId);
}
