import { checkPolicy, DEFAULT_POLICY } from '@clear-mark/core';
import { describe, expect, it } from 'vitest';
import { POLICY_FIELDS, typedPolicy } from './policy.model.ts';

describe('the policy form', () => {
  it('has every number of a policy, once', () => {
    const numbers = Object.entries(DEFAULT_POLICY).filter(([, value]) => typeof value === 'number');
    expect(POLICY_FIELDS.map((f) => f.key).sort()).toEqual(numbers.map(([key]) => key).sort());
  });
  it('reads what was typed, with a point or a comma, and lets nothing else become a policy', () => {
    const typed = { ...DEFAULT_POLICY, pGood: '0,05', passesInARow: ' 4 ' };
    expect(typedPolicy(typed)).toEqual({ ...DEFAULT_POLICY, pGood: 0.05, passesInARow: 4 });
    for (const text of ['', 'three', '-3', '1e2']) {
      expect(() => checkPolicy(typedPolicy({ ...DEFAULT_POLICY, passesInARow: text }))).toThrow(
        'policy.out_of_range',
      );
    }
  });
});
