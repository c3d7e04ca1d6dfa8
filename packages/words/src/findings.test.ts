import { FINDING_KINDS } from '@clear-mark/contract';
import { describe, expect, it } from 'vitest';
import { findingWords } from './findings.ts';

describe('findings of a check', () => {
  it('say where, whose and what, each kind in words of its own', () => {
    const said = FINDING_KINDS.map((kind) =>
      findingWords(
        {
          kind,
          classId: null,
          classSeq: 12,
          attemptId: null,
          pieceLabel: 'P-3',
          traineeName: 'Ada Tern',
          from: null,
        },
        'Autumn',
      ),
    );
    expect(said.every((s) => s.startsWith('Autumn, record 12, Ada Tern, P-3: '))).toBe(true);
    expect(new Set(said).size).toBe(FINDING_KINDS.length);
  });
  it('leave out what is not known', () => {
    const none = { classId: null, classSeq: null, attemptId: null, pieceLabel: null, traineeName: null };
    expect(findingWords({ ...none, kind: 'head_forged', from: '2026-11-28.json' })).toBe(
      '2026-11-28.json: the signature of a kept head does not hold',
    );
  });
});
