import { describe, expect, it } from 'vitest';
import type { Queued } from './device-store.ts';
import { afterFailure, afterSuccess, mendable, mended, nextToSend, restsWith } from './queue.model.ts';

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

describe('what the server fails on', () => {
  it('rests with what hangs together, and stops nobody else', () => {
    const items = [entry('1'), entry('2', { attempt: 'b' }), entry('3'), entry('4', { attempt: 'b' })];
    const sent = (resting: string[]) => nextToSend(items, me, 200, new Set(resting)).map((q) => q.id);
    expect(sent([])).toEqual(['1', '2', '3', '4']);
    expect(sent(['a'])).toEqual(['2', '4']);
    expect(sent(['a', 'b'])).toEqual([]);
  });
  it('of a start or a reference rests by itself', () => {
    const items = [start('s'), reference('r'), entry('1')];
    expect(items.map(restsWith)).toEqual(['s', 'r', 'a']);
    expect(nextToSend(items, me, 200, new Set(['s'])).map((q) => q.id)).toEqual(['r']);
  });
  it('is found by halving, and batches grow again after', () => {
    expect([200, 100, 3, 1].map(afterFailure)).toEqual([100, 50, 1, 1]);
    expect([1, 150, 200].map((n) => afterSuccess(n, 200))).toEqual([2, 200, 200]);
  });
});

describe('a refused entry', () => {
  const of = (more: object): NonNullable<Queued['entry']> =>
    ({ ...entry('1').entry!, note: null, source: 'typed', at: 'then', ...more }) as never;
  it('is put right where it is text or a number, without what cannot be kept', () => {
    expect(mendable(of({ note: 'so \ud83d' }))).toEqual({ part: 'note', text: 'so ' });
    expect(mendable(of({ value: { kind: 'measure', text: '12,3.4', unit: 'mm' } }))).toEqual({
      part: 'text',
      text: '12,3.4',
    });
    expect(mendable(of({ value: { kind: 'check', passed: true } }))).toBeNull();
    expect(mendable(null)).toBeNull();
  });
  it('goes out anew under another id, with its time, and is no instrument’s any more', () => {
    const stamped = of({
      source: 'instrument',
      value: { kind: 'loss', text: '-0.1', unit: 'dB', referenceId: 'r', instrument: { seq: 1 } },
    });
    expect(mended(stamped, ' 0.10 ', 'new')).toMatchObject({
      id: 'new',
      at: 'then',
      source: 'typed',
      note: null,
      value: { kind: 'loss', text: '0.10', unit: 'dB', referenceId: 'r' },
    });
    expect(mended(stamped, '0.10', 'new').value).not.toHaveProperty('instrument');
    expect(mended(of({ note: 'a', value: null }), 'b', 'new')).toMatchObject({ note: 'b', value: null });
  });
});
