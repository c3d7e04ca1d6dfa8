import { describe, expect, it } from 'vitest';
import type { DomainError } from '../domain-error.ts';
import { checkPolicy, DEFAULT_POLICY, type Policy, POLICY_BOUNDS } from './policy.ts';

/** Other numbers of the policy made to fit, so that only the one looked at decides. */
const withOne = (field: keyof typeof POLICY_BOUNDS, value: number): Policy => ({
  ...DEFAULT_POLICY,
  window: 120,
  sharePasses: 1,
  shareOf: 12,
  [field]: value,
  ...(field === 'window' ? { passesInARow: 1, failsInARow: 1 } : {}),
});
const refusal = (policy: Policy): DomainError | null => {
  try {
    checkPolicy(policy);
    return null;
  } catch (error) {
    return error as DomainError;
  }
};

describe('what a policy may be', () => {
  it.each(Object.entries(POLICY_BOUNDS))(
    '%s lies within %o, and the refusal says so',
    (name, [least, most]) => {
      const field = name as keyof typeof POLICY_BOUNDS;
      expect(refusal(withOne(field, least))).toBeNull();
      expect(refusal(withOne(field, most))).toBeNull();
      for (const value of [least - 1, most + 1, least + 0.5, Number.NaN]) {
        expect(refusal(withOne(field, value))).toMatchObject({
          code: 'policy.out_of_range',
          params: { field, value, least, most },
        });
      }
    },
  );

  it.each(['pGood', 'pBad'] as const)('%s lies over 0 and under 1', (field) => {
    for (const value of [0, 1, -0.1, Number.NaN]) {
      expect(refusal({ ...DEFAULT_POLICY, [field]: value })).toMatchObject({
        code: 'policy.rate_out_of_range',
        params: { field, least: 0, most: 1 },
      });
    }
  });

  it('numbers that contradict each other are refused', () => {
    expect(refusal({ ...DEFAULT_POLICY, window: 2 })?.code).toBe('policy.window_too_short');
    expect(refusal({ ...DEFAULT_POLICY, sharePasses: 11 })?.code).toBe('policy.share_crossed');
    expect(refusal({ ...DEFAULT_POLICY, pGood: 0.3, pBad: 0.3 })?.code).toBe('policy.rates_crossed');
  });
});
