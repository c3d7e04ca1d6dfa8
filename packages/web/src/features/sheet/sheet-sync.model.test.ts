import type { AttemptChanges, AttemptDocument, StoredEntry } from '@clear-mark/contract';
import { describe, expect, it } from 'vitest';
import { type AskedSheet, lastSeq, syncStep } from './sheet-sync.model.ts';

const entry = (seq: number): StoredEntry =>
  ({ id: `e${seq}`, seq, at: '2026-03-02T10:00:00.000Z' }) as StoredEntry;
const document = (state: 'open' | 'signed', entries: StoredEntry[] = []): AttemptDocument =>
  ({
    attempt: { id: 'a', state },
    entries,
    references: [{ id: 'r0' }],
    revisions: [],
  }) as unknown as AttemptDocument;
const given = (state: 'open' | 'signed', entries: StoredEntry[] = []) =>
  syncStep(null, { on: 'given', document: document(state, entries) });
const opened = given('open', [entry(1), entry(2)]).state as AskedSheet;
const changes = (more: Partial<AttemptChanges>): AttemptChanges => ({
  now: '2026-03-02T10:00:05.000Z',
  state: 'open',
  entries: [],
  references: [],
  ...more,
});
const heardAt = Date.parse('2026-03-02T10:00:00.000Z');

describe('an attempt that the server gave', () => {
  it('is listened to while it is open, and not when it is signed', () => {
    expect(given('open').effects).toEqual(['listen']);
    expect(given('signed').effects).toEqual([]);
    expect(lastSeq(opened)).toBe(2);
  });
  it('takes what is new once, however often it comes, with the clock of the server', () => {
    const step = syncStep(opened, {
      on: 'changed',
      changes: changes({ entries: [entry(2), entry(3)] }),
      heardAt,
    });
    expect(step.state!.stored.map((e) => e.seq)).toEqual([1, 2, 3]);
    expect(step.state!.offsetMs).toBe(5000);
    const again = syncStep(step.state, { on: 'changed', changes: changes({ entries: [entry(3)] }), heardAt });
    expect(again.state!.stored).toBe(step.state!.stored);
  });
  it('is asked for as a whole when it was signed elsewhere', () =>
    expect(
      syncStep(opened, { on: 'changed', changes: changes({ state: 'signed' }), heardAt }).effects,
    ).toEqual(['load']));
});

describe('an entry of this device', () => {
  const { seq: _, clockOffsetMs: __, ...sent } = { ...entry(3), clockOffsetMs: 0 };
  it('stands with its number once it is accepted, and once only', () => {
    const receipt = { id: 'e3', state: 'accepted', seq: 3 } as const;
    const step = syncStep(opened, { on: 'settled', entry: sent, receipt });
    expect(step.state!.stored.map((e) => e.seq)).toEqual([1, 2, 3]);
    expect(syncStep(step.state, { on: 'settled', entry: sent, receipt }).state).toBe(step.state);
  });
  it('that came after the signature brings the signed one', () =>
    expect(
      syncStep(opened, { on: 'settled', entry: sent, receipt: { id: 'e3', state: 'unmerged' } as never })
        .effects,
    ).toEqual(['load']));
  it('is nothing to a sheet that comes from the class', () =>
    expect(
      syncStep(null, {
        on: 'settled',
        entry: sent,
        receipt: { id: 'e3', state: 'accepted', seq: 3 } as never,
      }),
    ).toEqual({ state: null, effects: [] }));
});

describe('what is done here', () => {
  it('a signature shows at once', () => {
    const revision = { number: 1 } as never;
    const { state } = syncStep(null, { on: 'signed', from: opened, revision });
    expect(state!.document.attempt.state).toBe('signed');
    expect(state!.document.revisions).toEqual([revision]);
    expect(state!.stored).toBe(opened.stored);
  });
  it('a reference stands first, a newer one of the same id in its place', () => {
    const once = syncStep(opened, { on: 'reference', reference: { id: 'r1' } as never }).state;
    const twice = syncStep(once, { on: 'reference', reference: { id: 'r0', voided: true } as never }).state;
    expect(twice!.references).toEqual([{ id: 'r0', voided: true }, { id: 'r1' }]);
    expect(syncStep(null, { on: 'reference', reference: { id: 'r1' } as never }).state).toBeNull();
  });
});
