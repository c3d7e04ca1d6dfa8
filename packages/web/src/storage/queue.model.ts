import { type AttemptEntry, keepableText } from '@clear-mark/contract';
import type { EntryValue } from '@clear-mark/core';
import type { Queued } from './device-store.ts';

interface Person {
  readonly id: string;
  readonly teaches: boolean;
}

const NOBODY: ReadonlySet<string> = new Set();

/**
 * What is sent next, in order: one started piece or reference, or the entries up to the next of those. An instructor
 * hands in what others left here, but never starts a piece in their name; what hangs on such a piece waits with it.
 * `resting` are attempts that the server could not take entries for just now: theirs wait, and stop nobody else's.
 */
export function nextToSend(
  items: readonly Queued[],
  who: Person | null,
  most: number,
  resting: ReadonlySet<string> = NOBODY,
): readonly Queued[] {
  if (!who) return [];
  const held = new Set([
    ...resting,
    ...items.flatMap((q) =>
      q.entry === null && q.authorId !== who.id && q.state === 'waiting'
        ? [q.start?.body.id ?? '', q.reference?.body.id ?? '']
        : [],
    ),
  ]);
  const mine = items.filter((q) => q.state === 'waiting' && maySend(q, who, held));
  const [first] = mine;
  if (!first) return [];
  if (first.entry === null) return [first];
  const end = mine.findIndex((q) => q.entry === null);
  return mine.slice(0, Math.min(most, end < 0 ? mine.length : end));
}

function maySend(q: Queued, who: Person, held: ReadonlySet<string>): boolean {
  if (held.has(restsWith(q))) return false;
  if (q.authorId === who.id) return true;
  if (!who.teaches || q.entry === null) return false;
  return q.entry.value?.kind !== 'loss' || !held.has(q.entry.value.referenceId);
}

/** What rests together with an item: the entries of one attempt, a start or a reference by itself. */
export const restsWith = (q: Queued): string => q.entry?.attemptId ?? q.id;

/** How many are sent at once after a batch that the server failed on: half, down to one, so that a bad one is found. */
export const afterFailure = (sent: number): number => Math.max(1, Math.floor(sent / 2));
export const afterSuccess = (size: number, most: number): number => Math.min(most, size * 2);

/** What of a refused entry a person can put right here: the text of a note, or the number as typed. */
export type Mendable = { readonly part: 'note' | 'text'; readonly text: string } | null;

export function mendable(entry: AttemptEntry | null): Mendable {
  if (entry === null) return null;
  if (entry.note !== null) return { part: 'note', text: keepableText(entry.note) };
  const text = textOf(entry.value);
  return text === null ? null : { part: 'text', text: keepableText(text) };
}
const textOf = (value: EntryValue | null): string | null =>
  value !== null && 'text' in value && value.text !== undefined ? value.text : null;

/** The entry anew, put right: under an id of its own, since the refused one was answered; typed, with its time. */
export function mended(entry: AttemptEntry, text: string, id: string): AttemptEntry {
  const clean = keepableText(text).trim();
  const value = withText(entry.value, clean);
  const typed = entry.value === null ? entry.source : 'typed';
  return { ...entry, id, source: typed, note: entry.note === null ? null : clean, value };
}
function withText(value: AttemptEntry['value'], text: string): AttemptEntry['value'] {
  if (value === null || !('text' in value)) return value;
  // What a hand has put right is no reading of an instrument any more.
  if (value.kind === 'measure' || value.kind === 'loss') {
    const { instrument: _, ...rest } = value;
    return { ...rest, text };
  }
  return { ...value, text };
}
