import { describe, expect, it } from 'vitest';
import type { Queued } from './device-store.ts';
import { nextToSend } from './queue.model.ts';

const me = { id: 'me', teaches: true };
const entry = (
  id: string,
  more: { author?: string; attempt?: string; state?: Queued['state']; ref?: string } = {},
): Queued =>
  ({
    id,
    authorId: more.author ?? 'me',
    state: more.state ?? 'waiting',
    detail: null,
    entry: {
      id,
      attemptId: more.attempt ?? 'a',
      value: more.ref ? { kind: 'loss', referenceId: more.ref } : null,
    },
  }) as Queued;
const start = (attempt: string, author = 'me'): Queued =>
  ({
    id: attempt,
    authorId: author,
    state: 'waiting',
    detail: null,
    entry: null,
    start: { body: { id: attempt } },
  }) as Queued;
const reference = (id: string, author = 'me'): Queued =>
  ({
    id,
    authorId: author,
    state: 'waiting',
    detail: null,
    entry: null,
    reference: { body: { id } },
  }) as Queued;
const ids = (items: readonly Queued[], who: Parameters<typeof nextToSend>[1] = me, most = 200): string[] =>
  nextToSend(items, who, most).map((q) => q.id);

describe('what is sent next', () => {
  it('entries in order, up to the most of a batch', () => {
    expect(ids([entry('1'), entry('2'), entry('3')], me, 2)).toEqual(['1', '2']);
    expect(ids([])).toEqual([]);
    expect(ids([entry('1')], null)).toEqual([]);
  });
  it('a started piece goes alone, before the entries on it', () => {
    const queue = [entry('1'), start('b'), entry('2', { attempt: 'b' })];
    expect(ids(queue)).toEqual(['1']);
    expect(ids(queue.slice(1))).toEqual(['b']);
  });
  it('what was refused is not sent again', () => {
    expect(ids([entry('1', { state: 'refused' }), entry('2')])).toEqual(['2']);
  });
  it('an instructor hands in what another left; a trainee does not', () => {
    const queue = [entry('1', { author: 'other' }), entry('2')];
    expect(ids(queue)).toEqual(['1', '2']);
    expect(ids(queue, { id: 'me', teaches: false })).toEqual(['2']);
  });
  it('another’s piece is not started in their name, and what hangs on it waits', () => {
    const queue = [
      start('b', 'other'),
      entry('1', { author: 'other', attempt: 'b' }),
      reference('r', 'other'),
      entry('2', { author: 'other', ref: 'r' }),
      entry('3', { author: 'other' }),
    ];
    expect(ids(queue)).toEqual(['3']);
    expect(ids(queue, { id: 'other', teaches: true })).toEqual(['b']);
  });
});
