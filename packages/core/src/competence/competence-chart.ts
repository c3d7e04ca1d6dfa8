import { type CusumForm, cusumWeights, limitFor } from '../sequential/index.ts';
import { isFailMark, isPassMark, withVerdict } from './outcome-marks.ts';
import type { Policy } from './policy.ts';

type ChartPolicy = Pick<Policy, 'pGood' | 'pBad' | 'falseSignalAfter' | 'passesInARow'>;

export interface ChartLimits {
  /** Limit of the chart of learning, and of the chart of deterioration. */
  readonly learning: number;
  readonly deterioration: number;
}

const found = new Map<string, ChartLimits>();

/**
 * Limits of both charts of a policy: the least at which a trainee of pBad runs so many pieces to a false "competent", and
 * one of pGood so many to a false "getting worse". Without unit (log-likelihood). Errors: as `limitFor`. To 1e-6. Example:
 * 0.1, 0.3 and 100 pieces: deterioration 2.1972.
 */
export function chartLimits(policy: ChartPolicy): ChartLimits {
  const { pGood, pBad, falseSignalAfter } = policy;
  const key = `${pGood} ${pBad} ${falseSignalAfter}`;
  const known = found.get(key);
  if (known) return known;
  const at = (form: CusumForm): number => limitFor({ pGood, pBad }, form, falseSignalAfter).h;
  const limits = { learning: at('learning'), deterioration: at('deterioration') };
  found.set(key, limits);
  return limits;
}

export interface ChartPoint {
  readonly form: CusumForm;
  /** Position among the outcomes with a verdict, from 0. */
  readonly at: number;
  readonly failed: boolean;
  readonly sum: number;
  readonly signal: boolean;
  /** The chart began anew after this point: passes in a row, or a sign-off. */
  readonly restarts: boolean;
}

/**
 * A trainee's sequential chart of a skill: learning until it first says competent or the trainee is competent otherwise,
 * deterioration from then on, which passes in a row and a sign-off begin anew. Input: outcome marks, oldest first; the
 * position from which competence holds (null: not yet); how many outcomes with a verdict came before each sign-off. Error:
 * `competence.unknown_mark`, as `limitFor`. Example: `PPPFF` by the default policy signals at the second failure.
 */
export function competenceChart(
  history: string,
  policy: ChartPolicy,
  competentFrom: number | null,
  signOffs: readonly number[] = [],
): ChartPoint[] {
  const marks = withVerdict(history);
  const limits = chartLimits(policy);
  const rates = { pGood: policy.pGood, pBad: policy.pBad };
  const weights = {
    learning: cusumWeights(rates, 'learning'),
    deterioration: cusumWeights(rates, 'deterioration'),
  };
  let [sum, streak] = [0, 0];
  let form: CusumForm = 'learning';
  return [...marks].map((mark, at): ChartPoint => {
    if (form === 'learning' && competentFrom !== null && at > competentFrom)
      [form, sum] = ['deterioration', 0];
    if (form === 'deterioration' && signOffs.includes(at)) sum = 0;
    const failed = isFailMark(mark);
    sum = Math.max(0, sum + (failed ? weights[form].fail : weights[form].pass));
    streak = isPassMark(mark) ? streak + 1 : 0;
    const point = { form, at, failed, sum, signal: sum >= limits[form] * (1 - 1e-12) };
    const restarts = form === 'deterioration' && streak > 0 && streak % policy.passesInARow === 0;
    if (restarts) sum = 0;
    return { ...point, restarts };
  });
}
