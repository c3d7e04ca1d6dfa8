import { DomainError } from '../domain-error.ts';

/** The class's rule for competence, currency and retraining. */
export interface Policy {
  /** Passes in a row that show competence, and that clear a stop breach. */
  readonly passesInARow: number;
  /** Failures in a row that ask for retraining, once there are `retrainAfter` outcomes. */
  readonly failsInARow: number;
  readonly retrainAfter: number;
  /** Marginal passes in a row that put a trainee on watch. */
  readonly marginalInARow: number;
  readonly currencyMonths: number;
  /** Outcomes of a skill that the recent view looks at. */
  readonly window: number;
  readonly marginalPassCounts: boolean;
  readonly marginalFailCounts: boolean;
}

export const DEFAULT_POLICY: Policy = {
  passesInARow: 3,
  failsInARow: 2,
  retrainAfter: 3,
  marginalInARow: 3,
  currencyMonths: 12,
  window: 10,
  marginalPassCounts: true,
  marginalFailCounts: false,
};

/** Refuses a policy that contradicts itself. Error: `policy.out_of_range` with the field. */
export function checkPolicy(policy: Policy): Policy {
  const whole = ['passesInARow', 'failsInARow', 'retrainAfter', 'marginalInARow', 'window'] as const;
  for (const field of [...whole, 'currencyMonths'] as const) {
    const value = policy[field];
    if (!Number.isInteger(value) || value < 1 || value > 120) {
      throw new DomainError('policy.out_of_range', { field, value });
    }
  }
  if (policy.window < Math.max(policy.passesInARow, policy.failsInARow)) {
    throw new DomainError('policy.window_too_short', { window: policy.window });
  }
  return policy;
}
