import { FAULT_WORDS } from '@clear-mark/words';
import { expect, it } from 'vitest';
import { SHIPPED_METHODS } from './index.ts';

it('every named fault of every sheet has words, and every worded fault is used', () => {
  const used = new Set(
    SHIPPED_METHODS.flatMap((m) => m.steps.flatMap((s) => s.criteria.flatMap((c) => c.faults ?? []))),
  );
  expect([...used].filter((code) => !(code in FAULT_WORDS))).toEqual([]);
  expect(Object.keys(FAULT_WORDS).filter((code) => !used.has(code))).toEqual([]);
});
