import { FAULT_WORDS } from '@clear-mark/words';
import { expect, it } from 'vitest';
import { SHIPPED_METHODS } from './index.ts';

it('every named fault of every sheet has words; those of earlier versions keep theirs', () => {
  const used = new Set(
    SHIPPED_METHODS.flatMap((m) => m.steps.flatMap((s) => s.criteria.flatMap((c) => c.faults ?? []))),
  );
  expect([...used].filter((code) => !(code in FAULT_WORDS))).toEqual([]);
});
