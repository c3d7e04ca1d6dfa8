import { DomainError } from '../domain-error.ts';

/** What shows competence: passes in a row, passes among the last ones, or the learning chart at its limit. */
export const COMPETENCE_RULES = ['in_a_row', 'share', 'chart'] as const;
export type CompetenceRule = (typeof COMPETENCE_RULES)[number];

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
  readonly competentBy: CompetenceRule;
  /** For the rule of a share: so many passes among so many of the last outcomes. */
  readonly sharePasses: number;
  readonly shareOf: number;
  /** Failure rates of the charts: of one who is good, and of one who is not ready. */
  readonly pGood: number;
  readonly pBad: number;
  /** Pieces that a chart runs on the average before it signals falsely. */
  readonly falseSignalAfter: number;
  /** A signal of the deterioration chart asks for retraining. */
  readonly chartRetrains: boolean;
  /** A stop breach asks for retraining until it is cleared. */
  readonly stopRetrains: boolean;
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
  competentBy: 'in_a_row',
  sharePasses: 8,
  shareOf: 10,
  pGood: 0.1,
  pBad: 0.3,
  falseSignalAfter: 100,
  chartRetrains: true,
  stopRetrains: true,
};

/**
 * What each number of a policy may be, ends included. The window of the share rule is short, since every window of passes and
 * failures is a state of its own (`policy-operating.ts`).
 */
export const POLICY_BOUNDS = {
  passesInARow: [1, 120],
  failsInARow: [1, 120],
  retrainAfter: [1, 120],
  marginalInARow: [1, 120],
  currencyMonths: [1, 120],
  window: [1, 120],
  sharePasses: [1, 12],
  shareOf: [1, 12],
  falseSignalAfter: [2, 10_000],
} as const satisfies Partial<Record<keyof Policy, readonly [least: number, most: number]>>;
/** Failure rates lie between these, without them. */
const RATE_BETWEEN = [0, 1] as const;

/**
 * Refuses a policy that contradicts itself. Errors: `policy.out_of_range` and `policy.rate_out_of_range` with the
 * field and what it may be, `policy.window_too_short`,
 * `policy.share_crossed` (more passes wanted than outcomes looked at), `policy.rates_crossed` (pGood not under pBad).
 */
export function checkPolicy(policy: Policy): Policy {
  for (const [name, [least, most]] of Object.entries(POLICY_BOUNDS)) {
    const field = name as keyof typeof POLICY_BOUNDS;
    const value = policy[field];
    if (!Number.isInteger(value) || value < least || value > most) {
      throw new DomainError('policy.out_of_range', { field, value, least, most });
    }
  }
  for (const field of ['pGood', 'pBad'] as const) {
    const value = policy[field];
    const [least, most] = RATE_BETWEEN;
    if (!(value > least && value < most)) {
      throw new DomainError('policy.rate_out_of_range', { field, value, least, most });
    }
  }
  if (policy.window < Math.max(policy.passesInARow, policy.failsInARow)) {
    throw new DomainError('policy.window_too_short', { window: policy.window });
  }
  const { sharePasses, shareOf, pGood, pBad } = policy;
  if (sharePasses > shareOf) throw new DomainError('policy.share_crossed', { sharePasses, shareOf });
  if (pGood >= pBad) throw new DomainError('policy.rates_crossed', { pGood, pBad });
  return policy;
}
