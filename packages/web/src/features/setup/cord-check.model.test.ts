import type { CordCheck } from '@clear-mark/contract';
import { describe, expect, it } from 'vitest';
import { checkProblem, cordState } from './cord-check.model.ts';

const check: CordCheck = {
  id: 'c',
  checkedOn: '2026-03-02',
  dueOn: '2026-03-04',
  lossDb: '0.18',
  limitDb: '0.5',
  by: 'Someone',
  at: '2026-03-02T09:00:00.000Z',
};

describe('the check of a test cord', () => {
  it.each([
    [undefined, '2026-03-02', 'unchecked'],
    [check, '2026-03-04', 'good'],
    [check, '2026-03-05', 'overdue'],
    [{ ...check, lossDb: '0,51' }, '2026-03-02', 'failed'],
    [{ ...check, lossDb: '0,50' }, '2026-03-02', 'good'],
    [{ ...check, lossDb: '0,51' }, '2026-03-09', 'failed'],
  ] as const)('%j on %s is %s', (of, day, state) => expect(cordState(of, day)).toBe(state));

  it('does not run out before it was made', () => {
    expect(checkProblem(check)).toBeNull();
    expect(checkProblem({ checkedOn: '2026-03-04', dueOn: '2026-03-04' })).toBeNull();
    expect(checkProblem({ checkedOn: '2026-03-05', dueOn: '2026-03-04' })).toMatch(/cannot run out before/);
  });
});
