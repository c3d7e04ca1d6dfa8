import type { CheckRow, Safekeeping } from '@clear-mark/contract';
import { describe, expect, it } from 'vitest';
import { factsOf, sizeWords } from './safekeeping.model.ts';

const NOW = Date.parse('2026-11-28T12:00:00Z');
const ago = (hours: number): string => new Date(NOW - hours * 3_600_000).toISOString();
const check = (more: Partial<CheckRow> = {}): CheckRow => ({
  at: ago(3),
  by: null,
  ms: 40,
  revisions: 610,
  findings: [],
  ...more,
});
const view = (more: Partial<Safekeeping> = {}): Safekeeping => ({
  backups: [{ at: ago(5), file: 'x', bytes: 9, sha256: 'a', failed: null }],
  lastGoodBackup: ago(5),
  checks: [check()],
  heads: [{ day: '2026-11-28', className: 'C', classSeq: 4, hash: 'ab' }],
  headsInFiles: true,
  roleIsBound: true,
  ...more,
});
const marks = (v: Safekeeping) => factsOf(v, NOW).map((f) => f.mark);

describe('how safe the records are', () => {
  it('is good when all four are', () => {
    expect(marks(view())).toEqual(['good', 'good', 'good', 'good']);
    expect(factsOf(view(), NOW)[0]!.words).toBe('The last whole one was made 5 h ago.');
  });
  it('a backup turns bad when it is a day and an hour old, and not before', () => {
    expect(marks(view({ lastGoodBackup: ago(24.9) }))[0]).toBe('good');
    expect(marks(view({ lastGoodBackup: ago(25.1) }))[0]).toBe('bad');
  });
  it('a failed backup is said with its reason, even beside a good one', () => {
    const failed = { at: ago(1), file: 'x', bytes: 0, sha256: null, failed: 'no space left' };
    const [fact] = factsOf(view({ backups: [failed] }), NOW);
    expect(fact).toMatchObject({ mark: 'bad', words: expect.stringContaining('no space left') });
    expect(marks(view({ backups: [failed], lastGoodBackup: null }))[0]).toBe('bad');
    expect(marks(view({ backups: [], lastGoodBackup: null }))[0]).toBe('open');
  });
  it('findings are counted, and an old check is bad without any', () => {
    const none = {
      classId: null,
      classSeq: null,
      attemptId: null,
      pieceLabel: null,
      traineeName: null,
      from: null,
    };
    const [, fact] = factsOf(view({ checks: [check({ findings: [{ kind: 'gap', ...none }] })] }), NOW);
    expect(fact).toMatchObject({
      mark: 'bad',
      words: '1 of what was checked 3 h ago does not fit. See below.',
    });
    expect(marks(view({ checks: [check({ at: ago(26) })] }))[1]).toBe('bad');
    expect(marks(view({ checks: [] }))[1]).toBe('open');
  });
  it('an owner’s role and heads that lie in the database alone are said', () => {
    expect(marks(view({ roleIsBound: false, headsInFiles: false })).slice(2)).toEqual(['open', 'bad']);
  });
});

describe('words', () => {
  it.each([
    [400, '1 kB'],
    [120_309, '120 kB'],
    [4_560_000, '4.6 MB'],
    [2_340_000_000, '2.34 GB'],
  ])('%s bytes', (bytes, words) => expect(sizeWords(bytes)).toBe(words));
});
