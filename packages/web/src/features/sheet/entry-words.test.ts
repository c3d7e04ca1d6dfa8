import type { Criterion, Entry, EntryValue } from '@clear-mark/core';
import { describe, expect, it } from 'vitest';
import { entryWords } from './entry-words.ts';

const grade = {
  kind: 'grade',
  levels: [{ id: 'lip', label: 'Lip' }],
} as unknown as Criterion;
const say = (value: EntryValue | null, more: Partial<Entry> = {}): string =>
  entryWords({ kind: 'value', value, voidReason: null, ...more } as Entry, grade);

describe('what an entry says', () => {
  it.each([
    [{ kind: 'check', passed: true }, 'pass'],
    [{ kind: 'check', passed: false }, 'fail'],
    [{ kind: 'check', passed: false, faults: ['no_bow'] }, 'fail: no bow'],
    [{ kind: 'measure', text: '10,4', unit: 'mm' }, '10,4 mm'],
    [{ kind: 'count', count: 3 }, '3'],
    [{ kind: 'timed', text: '1:30' }, '1:30'],
    [{ kind: 'timed', startedAt: '2026-03-02T10:00:00Z', stoppedAt: '2026-03-02T10:01:15Z' }, '1:15'],
    [{ kind: 'grade', level: 'lip' }, 'Lip'],
    [{ kind: 'loss', text: '-5.3', unit: 'dBm', referenceId: 'r' }, '-5.3 dBm'],
    [{ kind: 'loss', unit: 'dBm', noLight: true, referenceId: 'r' }, 'no light'],
    [{ kind: 'map', far: [2, 1, null, 0] }, '2 1 – 0'],
    [{ kind: 'call', said: 'fail' }, 'says bad'],
  ] as [EntryValue, string][])('%j', (value, words) => {
    expect(say(value)).toBe(words);
  });
  it('not seen, and void with its reason', () => {
    expect(say(null, { kind: 'not_seen' })).toBe('not seen');
    expect(say(null, { kind: 'void', voidReason: 'launch_cord_taken_off' })).toMatch(/^void: .*launch cord/);
  });
});
