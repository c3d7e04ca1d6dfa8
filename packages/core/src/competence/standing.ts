import { atLimit, chartLimits, walkChart } from './competence-chart.ts';
import { isFailMark, isPassMark, withVerdict } from './outcome-marks.ts';
import type { Policy } from './policy.ts';

export const STANDINGS = ['not_tried', 'learning', 'competent', 'watch', 'retrain', 'lapsed'] as const;
export type StandingName = (typeof STANDINGS)[number];

export interface SkillHistory {
  /** Outcome marks in order of time, oldest first. */
  readonly marks: string;
  /** Instant of the last pass in ms since 1970, or null. */
  readonly lastPassMs: number | null;
  /** For each sign-off: how many outcomes with a verdict came before it. */
  readonly signOffs?: readonly number[];
}

export interface Standing {
  readonly standing: StandingName;
  /** The rule that held, with the figures that made it hold. */
  readonly evidence: { readonly code: EvidenceCode; readonly params: Readonly<Record<string, number>> };
  /** Outcomes with a verdict within the window, oldest first. */
  readonly window: string;
  readonly wasCompetent: boolean;
  /** Position of the outcome with which competence was first shown, from 0; null while it was not. */
  readonly competentFrom: number | null;
  /** Instant in ms since 1970 at which competence lapses without a further pass; null where there is none to lapse. */
  readonly lapsesMs: number | null;
}

export const EVIDENCE_CODES = [
  'standing.not_tried',
  'standing.lapsed',
  'standing.stop_breach',
  'standing.fails_in_a_row',
  'standing.chart_signals',
  'standing.slipped',
  'standing.only_marginal',
  'standing.competent',
  'standing.competent_share',
  'standing.competent_chart',
  'standing.learning',
  'standing.learning_share',
  'standing.learning_chart',
] as const;
export type EvidenceCode = (typeof EVIDENCE_CODES)[number];

/**
 * Where a trainee stands in a skill: the first of these that holds. Not tried (no verdict); lapsed (was competent, no pass
 * within the currency); retrain (a stop breach not yet cleared by passes in a row or a sign-off, the last fails in a row once
 * there are enough outcomes, or a signal of the deterioration chart since it last began); watch (was competent and the last
 * outcome failed, or the last passes all marginal); competent (by the policy's rule); learning. `nowMs`: ms since 1970.
 * Errors: `competence.unknown_mark`, `sequential.bad_rates`. Example: `PFPPP` is competent, by its last 3.
 */
export function standingOf(history: SkillHistory, policy: Policy, nowMs: number): Standing {
  const marks = withVerdict(history.marks);
  const competentFrom = firstShown(marks, policy);
  const wasCompetent = competentFrom !== null;
  const signOffs = history.signOffs ?? [];
  const lapsesMs =
    wasCompetent && history.lastPassMs !== null ? monthsOn(history.lastPassMs, policy.currencyMonths) : null;
  const give = (
    standing: StandingName,
    code: EvidenceCode,
    params: Readonly<Record<string, number>> = {},
  ): Standing => ({
    standing,
    evidence: { code, params },
    window: marks.slice(-policy.window),
    wasCompetent,
    competentFrom,
    lapsesMs,
  });
  const n = marks.length;
  if (n === 0) return give('not_tried', 'standing.not_tried');
  if (wasCompetent && (lapsesMs === null || nowMs > lapsesMs)) {
    return give('lapsed', 'standing.lapsed', { months: policy.currencyMonths });
  }
  if (policy.stopRetrains && stopBreachOpen(marks, policy.passesInARow, signOffs)) {
    return give('retrain', 'standing.stop_breach', { wanted: policy.passesInARow });
  }
  const fails = trailingRun(marks, isFailMark);
  if (fails >= policy.failsInARow && n >= policy.retrainAfter) {
    return give('retrain', 'standing.fails_in_a_row', { fails, n });
  }
  const signal = policy.chartRetrains ? openSignal(marks, policy, competentFrom, signOffs) : null;
  if (signal) return give('retrain', 'standing.chart_signals', signal);
  if (wasCompetent && fails > 0) return give('watch', 'standing.slipped', { fails });
  const marginal = trailingRun(marks, (mark) => mark === 'p');
  if (marginal >= policy.marginalInARow) return give('watch', 'standing.only_marginal', { marginal });
  return byRule(marks, policy, competentFrom, give);
}

type Give = (
  standing: StandingName,
  code: EvidenceCode,
  params: Readonly<Record<string, number>>,
) => Standing;

/** Competent or still learning, by the policy's rule. */
function byRule(marks: string, policy: Policy, competentFrom: number | null, give: Give): Standing {
  const n = marks.length;
  switch (policy.competentBy) {
    case 'in_a_row': {
      const passes = trailingRun(marks, isPassMark);
      const wanted = policy.passesInARow;
      return passes >= wanted
        ? give('competent', 'standing.competent', { passes })
        : give('learning', 'standing.learning', { passes, n, wanted });
    }
    case 'share': {
      const passes = passesIn(marks.slice(-policy.shareOf));
      const params = {
        passes,
        of: Math.min(n, policy.shareOf),
        wanted: policy.sharePasses,
        window: policy.shareOf,
      };
      return n >= policy.shareOf && passes >= policy.sharePasses
        ? give('competent', 'standing.competent_share', params)
        : give('learning', 'standing.learning_share', params);
    }
    case 'chart':
      return competentFrom === null
        ? give('learning', 'standing.learning_chart', { n, limit: chartLimits(policy).learning })
        : give('competent', 'standing.competent_chart', { piece: competentFrom + 1 });
    default: {
      const never: never = policy.competentBy;
      return never;
    }
  }
}

/** Position of the outcome with which the policy's rule first held. */
function firstShown(marks: string, policy: Policy): number | null {
  if (policy.competentBy === 'chart') {
    const limit = chartLimits(policy).learning;
    let first: number | null = null;
    walkChart(marks, policy, null, [], (at, _form, _failed, sum) => {
      if (first === null && atLimit(sum, limit)) first = at;
    });
    return first;
  }
  let streak = 0;
  for (let at = 0; at < marks.length; at++) {
    streak = isPassMark(marks[at]!) ? streak + 1 : 0;
    const holds =
      policy.competentBy === 'in_a_row'
        ? streak >= policy.passesInARow
        : at + 1 >= policy.shareOf &&
          passesIn(marks.slice(at + 1 - policy.shareOf, at + 1)) >= policy.sharePasses;
    if (holds) return at;
  }
  return null;
}

/** The first signal of the deterioration chart since it last began anew, with the outcomes from there to it. */
function openSignal(
  marks: string,
  policy: Policy,
  competentFrom: number | null,
  signOffs: readonly number[],
): { fails: number; of: number } | null {
  if (competentFrom === null) return null;
  const limit = chartLimits(policy).deterioration;
  let fails = 0;
  let of = 0;
  let signal: { fails: number; of: number } | null = null;
  walkChart(marks, policy, competentFrom, signOffs, (at, form, failed, sum, restarts) => {
    if (form !== 'deterioration') return;
    if (signOffs.includes(at)) [fails, of, signal] = [0, 0, null];
    fails += Number(failed);
    of += 1;
    if (signal === null && atLimit(sum, limit)) signal = { fails, of };
    if (restarts) [fails, of, signal] = [0, 0, null];
  });
  return signOffs.some((at) => at >= marks.length) ? null : signal;
}

const passesIn = (marks: string): number => [...marks].filter(isPassMark).length;

function trailingRun(marks: string, holds: (mark: string) => boolean): number {
  let run = 0;
  while (run < marks.length && holds(marks[marks.length - 1 - run]!)) run += 1;
  return run;
}

function stopBreachOpen(marks: string, wanted: number, signOffs: readonly number[]): boolean {
  const breach = marks.lastIndexOf('S');
  if (breach < 0 || signOffs.some((at) => at > breach)) return false;
  let streak = 0;
  for (const mark of marks.slice(breach + 1)) {
    streak = isPassMark(mark) ? streak + 1 : 0;
    if (streak >= wanted) return false;
  }
  return true;
}

/**
 * So many calendar months after an instant, on the month's last day where it has no such day. Instants in ms since 1970,
 * days in UTC. Example: twelve months after 29 February 2024 is 28 February 2025.
 */
export function monthsOn(fromMs: number, months: number): number {
  const then = new Date(fromMs);
  const day = then.getUTCDate();
  then.setUTCDate(1);
  then.setUTCMonth(then.getUTCMonth() + months);
  const lastDay = new Date(Date.UTC(then.getUTCFullYear(), then.getUTCMonth() + 1, 0)).getUTCDate();
  then.setUTCDate(Math.min(day, lastDay));
  return then.getTime();
}
