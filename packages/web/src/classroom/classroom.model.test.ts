import type { OpenAttempt, StoredEntry } from '@clear-mark/contract';
import { describe, expect, it } from 'vitest';
import type { Entry } from '@clear-mark/core';
import { resolveEntries } from '@clear-mark/core';
import {
  kept,
  knownOf,
  merge as mergeFor,
  offsetOf,
  seenIds,
  withEntries,
  withNews,
} from './classroom.model.ts';
import type { KeptAttempt } from '../storage/kept-attempt.ts';

const entry = (seq: number): StoredEntry =>
  ({
    id: `e${seq}`,
    seq,
    kind: 'value',
    criterionId: 'c',
    part: '',
    authorId: 'p',
    deviceId: 'd',
    capacity: 'instructor',
    source: 'typed',
    supersedes: [],
  }) as unknown as StoredEntry;
const attempt = (id: string, ...seqs: number[]): KeptAttempt =>
  kept({ id, things: [], entries: seqs.map(entry) } as unknown as OpenAttempt);
type Known = ReadonlyMap<string, KeptAttempt>;
const map = (...list: KeptAttempt[]): Known => new Map(list.map((a) => [a.id, a]));
const merge = (before: Known, changed: OpenAttempt[], closed: string[]): Known =>
  mergeFor(before, changed, closed, 'this');
const seqsOf = (m: Known, id: string) => m.get(id)?.entries.map((e) => e.seq);

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

describe('entries that cannot count any more', () => {
  const id = (n: number): string => `00000000-0000-7000-8000-${String(n).padStart(12, '0')}`;
  const act = (seq: number, more: Partial<StoredEntry> = {}): StoredEntry =>
    ({
      ...entry(seq),
      id: id(seq),
      value: { kind: 'check', passed: true },
      voidReason: null,
      note: null,
      targetId: null,
      at: '',
      clockOffsetMs: 0,
      ...more,
    }) as StoredEntry;
  /** The same criterion scored again and again. */
  const chain = (n: number, more: Partial<StoredEntry> = {}): StoredEntry[] =>
    Array.from({ length: n }, (_, i) => act(i + 1, { supersedes: i === 0 ? [] : [id(i)], ...more }));
  const backOf = (seq: number, target: number): StoredEntry =>
    act(seq, { kind: 'retract', targetId: id(target), value: null });
  const of = (entries: StoredEntry[], own = 'this'): KeptAttempt => withEntries(attempt('a'), entries, own);
  const heads = (entries: readonly Entry[]): string[] =>
    [...resolveEntries(entries).values()].flatMap((s) => s.heads.map((h) => h.id));

  it('are let go of, but for the one that a single undo restores; a signature still names them', () => {
    const found = of(chain(6));
    expect(found.entries.map((e) => e.seq)).toEqual([5, 6]);
    expect(found.lastSeq).toBe(6);
    expect(seenIds(found).sort()).toEqual(chain(6).map((e) => e.id));
    expect(knownOf(map(found), new Set())).toEqual({ a: 6 });
    expect(withEntries(found, chain(6), 'this')).toBe(found);
  });
  it('of this device stay, and so does what keeps an older one down', () => {
    expect(of(chain(6, { deviceId: 'this' })).entries).toHaveLength(6);
    const mixed = chain(6).map((e) => (e.seq === 2 ? { ...e, deviceId: 'this' } : e));
    expect(of(mixed).entries.map((e) => e.seq)).toEqual([2, 3, 4, 5, 6]);
  });
  it('come back when what superseded them is taken back', () => {
    const once = withEntries(of(chain(6)), [backOf(7, 6)], 'this');
    expect(heads(once.entries)).toEqual([id(5)]);
    expect(once.incomplete).toBe(false);
    const twice = withEntries(once, [backOf(8, 5)], 'this');
    expect(twice.incomplete).toBe(true);
    expect(knownOf(map(twice), new Set())).toEqual({ a: 0 });
    const all = [...chain(6), backOf(7, 6), backOf(8, 5)];
    const whole = merge(map(twice), [{ ...attempt('a'), entries: all }], []).get('a')!;
    expect(heads(whole.entries)).toEqual([id(4)]);
    expect(whole).toMatchObject({ incomplete: false, lastSeq: 8 });
  });
  it('what was taken back goes with what took it back, until that is taken back itself', () => {
    const found = of([act(1), backOf(2, 1), act(3)]);
    expect(found.entries.map((e) => e.seq)).toEqual([3]);
    const again = withEntries(found, [backOf(4, 2)], 'this');
    expect(again.incomplete).toBe(true);
  });
  it('never change what counts, whatever the order of scoring and undoing', () => {
    let seed = 5;
    const random = (n: number): number => (seed = (seed * 48271) % 2147483647) % n;
    let most = 0;
    for (let round = 0; round < 400; round++) {
      const all: StoredEntry[] = [];
      let known: Known = map(attempt('a'));
      for (let seq = 1; seq <= 30; seq++) {
        const standing = heads(all);
        const deviceId = random(3) === 0 ? 'this' : 'd';
        const target = random(5) === 0 ? all[random(Math.max(1, all.length))]?.id : standing[0];
        const undo = random(4) === 0 && target !== undefined;
        const next = undo
          ? { ...backOf(seq, Number(target.slice(-6))), deviceId }
          : act(seq, { deviceId, supersedes: random(6) === 0 ? [] : standing });
        all.push(next);
        // As the device asks: from what it knows, and from the beginning where something may count again.
        for (let asked = 0; asked < 2; asked++) {
          const from = knownOf(known, new Set())['a']!;
          known = merge(known, [{ ...attempt('a'), entries: all.filter((e) => e.seq > from) }], []);
        }
        const there = known.get('a')!;
        expect(there.incomplete).toBe(false);
        expect(heads(there.entries)).toEqual(heads(all));
        expect(seenIds(there).sort()).toEqual(all.map((e) => e.id).sort());
        most = Math.max(most, there.buried.length / 36);
      }
    }
    expect(most).toBeGreaterThan(10);
  });
});

describe('entries that a stream brings', () => {
  const news = (id: string, ...seqs: number[]) => ({ now: '', attempts: [{ id, entries: seqs.map(entry) }] });
  it('are added where nothing lies between, and nothing is asked', () => {
    const before = map(attempt('a', 1, 2), attempt('b', 1));
    const { attempts, ask } = withNews(before, news('a', 3, 4), 'this');
    expect([seqsOf(attempts, 'a'), ask]).toEqual([[1, 2, 3, 4], false]);
    expect(attempts.get('b')).toBe(before.get('b'));
  });
  it('that are known already change nothing', () => {
    const before = map(attempt('a', 1, 2));
    expect(withNews(before, news('a', 2), 'this')).toEqual({ attempts: before, ask: false });
    expect(withNews(before, news('a', 2), 'this').attempts).toBe(before);
  });
  it('behind a gap, or of an attempt that is not known, are asked for', () => {
    const before = map(attempt('a', 1, 2));
    expect(withNews(before, news('a', 4), 'this')).toEqual({ attempts: before, ask: true });
    expect(withNews(before, news('new', 1), 'this')).toEqual({ attempts: before, ask: true });
  });
});
