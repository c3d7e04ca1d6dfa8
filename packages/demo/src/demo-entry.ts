import type { Criterion, Entry, EntryValue } from '@clear-mark/core';
import { type Rng, uuidFrom } from '@clear-mark/sim';

/** Who enters, on which device. */
export interface Author {
  readonly authorId: string;
  readonly deviceId: string;
}

/** One entry of an instructor, as the demo's pieces have them; `at` in ms. */
export function demoEntry(
  criterion: Criterion,
  part: string,
  value: EntryValue,
  at: number,
  { authorId, deviceId }: Author,
  rng: Rng,
): Entry {
  return {
    id: uuidFrom(rng),
    kind: value.kind === 'stop' ? 'stop' : 'value',
    criterionId: criterion.id,
    part,
    value,
    voidReason: null,
    note: null,
    authorId,
    capacity: 'instructor',
    deviceId,
    source: value.kind === 'timed' ? 'timer' : value.kind === 'loss' ? 'instrument' : 'typed',
    at: new Date(at).toISOString(),
    supersedes: [],
    targetId: null,
  };
}

/** The first letters of a name, for the label of a piece. */
export const initials = (name: string): string =>
  name
    .split(' ')
    .map((part) => part.slice(0, 1))
    .join('');
