import { type CusumForm, cusumWeights, limitFor } from '../sequential/index.ts';
import { isFailMark, withVerdict } from './outcome-marks.ts';
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

/** One step of the chart, without an object of its own: a history may hold many thousands. */
type Visit = (at: number, form: CusumForm, failed: boolean, sum: number, restarts: boolean) => void;

/** Walks the chart of `competenceChart` over marks that all carry a verdict. */
export function walkChart(
  marks: string,
  policy: ChartPolicy,
  competentFrom: number | null,
  signOffs: readonly number[],
  visit: Visit,
): void {
  const rates = { pGood: policy.pGood, pBad: policy.pBad };
  const weights = {
    learning: cusumWeights(rates, 'learning'),
    deterioration: cusumWeights(rates, 'deterioration'),
  };
  let sum = 0;
  let streak = 0;
  let form: CusumForm = 'learning';
  for (let at = 0; at < marks.length; at++) {
    if (form === 'learning' && competentFrom !== null && at > competentFrom) {
      [form, sum] = ['deterioration', 0];
    }
    if (form === 'deterioration' && signOffs.length > 0 && signOffs.includes(at)) sum = 0;
    const failed = isFailMark(marks[at]!);
    sum = Math.max(0, sum + (failed ? weights[form].fail : weights[form].pass));
    streak = failed ? 0 : streak + 1;
    const restarts = form === 'deterioration' && streak > 0 && streak % policy.passesInARow === 0;
    visit(at, form, failed, sum, restarts);
    if (restarts) sum = 0;
  }
}

/** A sum at its limit, binary dust forgiven. */
export const atLimit = (sum: number, limit: number): boolean => sum >= limit * (1 - 1e-12);

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
  const limits = chartLimits(policy);
  const points: ChartPoint[] = [];
  walkChart(withVerdict(history), policy, competentFrom, signOffs, (at, form, failed, sum, restarts) => {
    points.push({ form, at, failed, sum, signal: atLimit(sum, limits[form]), restarts });
  });
  return points;
}
