import {
  type AttemptLink,
  type LinkPlan,
  linkUnderTest,
  type LossSettings,
  type ReferenceMethod,
} from '@clear-mark/core';
import { lossRulesFor } from './loss-rules.ts';

export interface DescribedLink {
  readonly id: string;
  readonly label: string;
  readonly plan: LinkPlan;
  readonly referenceMethod: ReferenceMethod;
  readonly settings: LossSettings;
}

/** A link of the class as an attempt on it keeps it: with the rules that its settings make. Error: `loss.bad_link`. */
export function linkOfAttempt({ id, label, plan, referenceMethod, settings }: DescribedLink): AttemptLink {
  linkUnderTest(plan, referenceMethod);
  return {
    id,
    label,
    plan,
    referenceMethod,
    rules: lossRulesFor(plan.fiberClass, referenceMethod, settings),
  };
}
