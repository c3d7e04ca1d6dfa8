import { COMPETENCE_RULES, type Policy } from '@clear-mark/core';
import { z } from 'zod';
import { oneOf } from './common.ts';

const whole = z.number().int();

export const PolicyShape = z.object({
  passesInARow: whole,
  failsInARow: whole,
  retrainAfter: whole,
  marginalInARow: whole,
  currencyMonths: whole,
  window: whole,
  marginalPassCounts: z.boolean(),
  marginalFailCounts: z.boolean(),
  competentBy: oneOf(COMPETENCE_RULES),
  sharePasses: whole,
  shareOf: whole,
  pGood: z.number(),
  pBad: z.number(),
  falseSignalAfter: whole,
  chartRetrains: z.boolean(),
  stopRetrains: z.boolean(),
}) satisfies z.ZodType<Policy>;

/** What makes a policy none that anybody could reach or fail. */
export const POLICY_ERRORS = [
  'policy.out_of_range',
  'policy.rate_out_of_range',
  'policy.window_too_short',
  'policy.share_crossed',
  'policy.rates_crossed',
] as const;
