import type { OpenAttempt, StoredEntry } from '@clear-mark/contract';
import { describe, expect, it } from 'vitest';
import { knownOf, merge, offsetOf } from './classroom.model.ts';

const entry = (seq: number): StoredEntry =>
  ({
    ...{ id: `e${seq}`, seq, kind: 'value', criterionId: 'c', part: '', authorId: 'p', deviceId: 'd' },
    ...{ capacity: 'instructor', source: 'typed', supersedes: [] },
  }) as unknown as StoredEntry;
const attempt = (id: string, ...seqs: number[]): OpenAttempt =>
  ({ id, things: [], entries: seqs.map(entry) }) as unknown as OpenAttempt;
const map = (...list: OpenAttempt[]): ReadonlyMap<string, OpenAttempt> => new Map(list.map((a) => [a.id, a]));
const seqsOf = (m: ReadonlyMap<string, OpenAttempt>, id: string) => m.get(id)?.entries.map((e) => e.seq);

describe('what a device knows of a class', () => {
  it('asks from the last entry without a gap before it', () => {
    expect(knownOf(map(attempt('a', 1, 2, 3), attempt('b'), attempt('c', 1, 2, 5)), new Set())).toEqual({
      a: 3,
      b: 0,
      c: 2,
    });
  });
  it('does not ask for a piece that the server has not heard of', () => {
    expect(knownOf(map(attempt('a', 1), attempt('new')), new Set(['new']))).toEqual({ a: 1 });
  });
  it('adds what came, once each and in order, whatever came before', () => {
    const before = map(attempt('a', 1, 2));
    const after = merge(before, [attempt('a', 2, 4, 3)], []);
    expect(seqsOf(after, 'a')).toEqual([1, 2, 3, 4]);
    expect(seqsOf(before, 'a')).toEqual([1, 2]);
    expect(seqsOf(merge(before, [attempt('b', 1)], []), 'b')).toEqual([1]);
  });
  it('lets go of what ended, and keeps the same objects where nothing changed', () => {
    const before = map(attempt('a', 1), attempt('b', 1));
    expect(merge(before, [], [])).toBe(before);
    const after = merge(before, [attempt('a', 1)], ['b']);
    expect([...after.keys()]).toEqual(['a']);
    expect(after.get('a')).toBe(before.get('a'));
  });
  it('knows how far the server’s clock is ahead, beyond the way over the network', () => {
    const now = Date.parse('2026-03-02T10:00:00Z');
    expect(offsetOf('2026-03-02T10:00:01Z', now)).toBe(0);
    expect(offsetOf('2026-03-02T11:00:00Z', now)).toBe(3_600_000);
    expect(offsetOf('2026-03-02T09:59:00Z', now)).toBe(-60_000);
  });
});
