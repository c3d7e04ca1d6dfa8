import { DomainError } from '../domain-error.ts';
import { normalQuantile } from '../special/index.ts';

/** One trainee: attempts until the first pass, or so far without one. */
export interface ToFirstPass {
  readonly attempts: number;
  readonly passed: boolean;
}
export interface SurvivalStep {
  readonly attempts: number;
  /** Trainees who had not passed before this attempt and were seen at it. */
  readonly atRisk: number;
  readonly passed: number;
  /** Share who need more attempts than this, with its interval. */
  readonly still: number;
  readonly low: number;
  readonly high: number;
}
export interface Survival {
  readonly n: number;
  readonly passed: number;
  readonly steps: readonly SurvivalStep[];
  /** Attempts after which half have passed; null while more than half have not. Interval ends null where not reached. */
  readonly median: number | null;
  readonly medianLow: number | null;
  readonly medianHigh: number | null;
}

/**
 * Attempts to first pass with those counted who have not passed yet (Kaplan & Meier 1958), variance by Greenwood, interval
 * on the log-log scale; the median is the first count at which the share still without a pass is a half or less, the middle
 * of the flat stretch where it is exactly a half. Input: whole attempts of 1 and more. Errors: `stats.bad_count`,
 * `stats.bad_probability`. Relative error under 1e-12. Example: passed at 1, 2, 2 and one with 3 and no pass: median 2.
 */
export function toFirstPass(trainees: readonly ToFirstPass[], confidence = 0.95): Survival {
  if (!(confidence > 0 && confidence < 1)) throw new DomainError('stats.bad_probability', { p: confidence });
  for (const { attempts } of trainees) {
    if (!Number.isInteger(attempts) || attempts < 1) throw new DomainError('stats.bad_count', { attempts });
  }
  const z = normalQuantile((1 + confidence) / 2);
  const counts = [...new Set(trainees.filter((t) => t.passed).map((t) => t.attempts))].sort((a, b) => a - b);
  let still = 1;
  let greenwood = 0;
  const steps = counts.map((attempts): SurvivalStep => {
    const atRisk = trainees.filter((t) => t.attempts >= attempts).length;
    const passed = trainees.filter((t) => t.passed && t.attempts === attempts).length;
    still *= (atRisk - passed) / atRisk;
    greenwood += passed / (atRisk * (atRisk - passed));
    const spread = still > 0 && still < 1 ? (z * Math.sqrt(greenwood)) / Math.log(still) : 0;
    const at = (by: number): number => (still > 0 ? Math.exp(Math.log(still) * Math.exp(by)) : 0);
    return { attempts, atRisk, passed, still, low: at(-spread), high: at(spread) };
  });
  return {
    n: trainees.length,
    passed: trainees.filter((t) => t.passed).length,
    steps,
    median: crossing(steps, (s) => s.still),
    medianLow: crossing(steps, (s) => s.low),
    medianHigh: crossing(steps, (s) => s.high),
  };
}

const HALF = 0.5;
const DUST = 1e-12;
function crossing(steps: readonly SurvivalStep[], of: (step: SurvivalStep) => number): number | null {
  const at = steps.findIndex((s) => of(s) <= HALF + DUST);
  if (at < 0) return null;
  const flat = Math.abs(of(steps[at]!) - HALF) <= DUST;
  const next = steps[at + 1];
  return flat && next ? (steps[at]!.attempts + next.attempts) / 2 : steps[at]!.attempts;
}
