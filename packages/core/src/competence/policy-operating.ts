import { DomainError } from '../domain-error.ts';
import { type CusumForm, cusumWeights, furtherPieces, runLength } from '../sequential/index.ts';
import { chartLimits, type ChartLimits } from './competence-chart.ts';
import type { Policy } from './policy.ts';

export interface PolicyOperating {
  /** Chance of a failure at each piece. */
  readonly p: number;
  /** Chance that so many pieces show competence at some time, and that they ask for retraining at some time. */
  readonly competent: number;
  readonly retrain: number;
  /** Expected pieces to competence; null where it never comes. */
  readonly pieces: number | null;
}

/** What a trainee's next piece has to know of those before. */
interface State {
  /** Passes in a row, counted anew after each full run. */
  readonly run: number;
  readonly fails: number;
  /** The last outcomes, for the rule of a share; empty otherwise. */
  readonly last: string;
  readonly form: CusumForm;
  readonly sum: number;
  readonly competent: boolean;
  readonly retrain: boolean;
}
const START: State = {
  run: 0,
  fails: 0,
  last: '',
  form: 'learning',
  sum: 0,
  competent: false,
  retrain: false,
};

const MOST_PIECES = 200;
/** Sums are steps of two weights: those that differ by less are the same. */
const SUM_DIGITS = 9;

/**
 * What a policy makes of a trainee who fails each piece with one chance, over a number of pieces: exact, by the chain of what
 * the rules look at (streaks, the last outcomes, the sums of the charts). Competence is called falsely of a bad one,
 * retraining needlessly of a good one. Stop breaches, marginal outcomes and lapses are not counted. Input: p from 0 to 1,
 * whole pieces from 1 to 200. Errors: `sequential.bad_share`, `stats.bad_count`, as `chartLimits`. Absolute error under
 * 1e-9. Example: three in a row within 20 pieces of a trainee who fails three in ten: 0.986.
 */
export function policyOperating(policy: Policy, p: number, pieces: number): PolicyOperating {
  if (!Number.isInteger(pieces) || pieces < 1 || pieces > MOST_PIECES) {
    throw new DomainError('stats.bad_count', { pieces, most: MOST_PIECES });
  }
  const expected = piecesToCompetence(policy, p);
  const step = stepOf(policy);
  let chances = new Map<string, { state: State; chance: number }>([
    [keyOf(START), { state: START, chance: 1 }],
  ]);
  for (let n = 1; n <= pieces; n++) {
    const next = new Map<string, { state: State; chance: number }>();
    const add = (state: State, chance: number): void => {
      if (chance === 0) return;
      const key = keyOf(state);
      const there = next.get(key);
      if (there) there.chance += chance;
      else next.set(key, { state, chance });
    };
    for (const { state, chance } of chances.values()) {
      add(step(state, true, n), chance * p);
      add(step(state, false, n), chance * (1 - p));
    }
    chances = next;
  }
  const total = (holds: (state: State) => boolean): number =>
    Math.min(
      1,
      [...chances.values()].reduce((sum, c) => sum + (holds(c.state) ? c.chance : 0), 0),
    );
  return { p, competent: total((s) => s.competent), retrain: total((s) => s.retrain), pieces: expected };
}

const keyOf = (s: State): string =>
  [s.run, s.fails, s.last, s.form, s.sum.toFixed(SUM_DIGITS), s.competent, s.retrain].join(' ');

function stepOf(policy: Policy): (state: State, failed: boolean, n: number) => State {
  const rates = { pGood: policy.pGood, pBad: policy.pBad };
  const limits: ChartLimits = chartLimits(policy);
  const weights = {
    learning: cusumWeights(rates, 'learning'),
    deterioration: cusumWeights(rates, 'deterioration'),
  };
  const shown = (state: State, failed: boolean, run: number, last: string, sum: number): boolean => {
    switch (policy.competentBy) {
      case 'in_a_row':
        return !failed && run === 0;
      case 'share':
        return (
          last.length >= policy.shareOf && [...last].filter((c) => c === 'P').length >= policy.sharePasses
        );
      case 'chart':
        return state.form === 'learning' && sum >= limits.learning * (1 - 1e-12);
      default: {
        const never: never = policy.competentBy;
        return never;
      }
    }
  };
  return (state, failed, n) => {
    const run = failed ? 0 : (state.run + 1) % policy.passesInARow;
    const fails = failed ? Math.min(policy.failsInARow, state.fails + 1) : 0;
    const last =
      policy.competentBy === 'share' ? (state.last + (failed ? 'F' : 'P')).slice(-policy.shareOf) : '';
    // Once competent the chart of learning has said its word, and that of deterioration begins.
    const form: CusumForm = state.competent ? 'deterioration' : 'learning';
    const before = form === state.form ? state.sum : 0;
    const sum = Math.max(0, before + (failed ? weights[form].fail : weights[form].pass));
    const signals = form === 'deterioration' && sum >= limits.deterioration * (1 - 1e-12);
    const restarts = form === 'deterioration' && !failed && run === 0;
    const keepsSum = form === 'learning' ? policy.competentBy === 'chart' : policy.chartRetrains;
    return {
      run,
      fails,
      last,
      form,
      sum: restarts || !keepsSum ? 0 : sum,
      competent: state.competent || shown(state, failed, run, last, sum),
      retrain:
        state.retrain ||
        (fails >= policy.failsInARow && n >= policy.retrainAfter) ||
        (policy.chartRetrains && signals),
    };
  };
}

function piecesToCompetence(policy: Policy, p: number): number | null {
  switch (policy.competentBy) {
    case 'in_a_row': {
      const further = furtherPieces(policy.passesInARow, 0, 1 - p);
      return further.kind === 'pieces' ? further.pieces : null;
    }
    case 'share':
      return piecesToShare(policy, p);
    case 'chart': {
      const run = runLength(policy, chartLimits(policy).learning, 'learning', p);
      return run.kind === 'run_length' ? run.mean : null;
    }
    default: {
      const never: never = policy.competentBy;
      return never;
    }
  }
}

const MOST_ROUNDS = 20_000;
const DONE = 1e-12;

/** Expected pieces to a share: the sum of the chances that it has not come yet, its tail by the chain's own slow decay. */
function piecesToShare({ shareOf, sharePasses }: Policy, p: number): number | null {
  if (p === 1) return null;
  const size = 1 << shareOf;
  const full = size - 1;
  const enough = Uint8Array.from({ length: size }, (_, bits) => (ones(bits) >= sharePasses ? 1 : 0));
  // Windows shorter than shareOf cannot show it yet: the first pieces fill the window.
  let chances = new Float64Array(size);
  chances[0] = 1;
  let expected = 0;
  let left = 1;
  let n = 0;
  while (left > DONE && n < MOST_ROUNDS) {
    expected += left;
    n += 1;
    const next = new Float64Array(size);
    for (let bits = 0; bits < size; bits++) {
      if (chances[bits] === 0) continue;
      next[((bits << 1) | 1) & full]! += chances[bits]! * (1 - p);
      next[(bits << 1) & full]! += chances[bits]! * p;
    }
    let still = 0;
    for (let bits = 0; bits < size; bits++) {
      if (n >= shareOf && enough[bits]) next[bits] = 0;
      still += next[bits]!;
    }
    const ratio = still / left;
    [chances, left] = [next, still];
    if (n > 40 * shareOf && ratio > 0 && ratio < 1) return expected + left / (1 - ratio);
  }
  return expected;
}

function ones(bits: number): number {
  let count = 0;
  for (let rest = bits; rest > 0; rest >>= 1) count += rest & 1;
  return count;
}
