import { isFailMark, isPassMark, withVerdict } from './outcome-marks.ts';
import type { Policy } from './policy.ts';

export const STANDINGS = ['not_tried', 'learning', 'competent', 'watch', 'retrain', 'lapsed'] as const;
export type StandingName = (typeof STANDINGS)[number];

export interface SkillHistory {
  /** Outcome marks in order of time, oldest first. */
  readonly marks: string;
  /** Instant of the last pass in ms since 1970, or null. */
  readonly lastPassMs: number | null;
}

export interface Standing {
  readonly standing: StandingName;
  /** The rule that held, with the figures that made it hold. */
  readonly evidence: { readonly code: EvidenceCode; readonly params: Readonly<Record<string, number>> };
  /** Outcomes with a verdict within the window, oldest first. */
  readonly window: string;
  readonly wasCompetent: boolean;
}

export const EVIDENCE_CODES = [
  'standing.not_tried',
  'standing.lapsed',
  'standing.stop_breach',
  'standing.fails_in_a_row',
  'standing.slipped',
  'standing.only_marginal',
  'standing.competent',
  'standing.learning',
] as const;
export type EvidenceCode = (typeof EVIDENCE_CODES)[number];

/**
 * Where a trainee stands in a skill: the first of these that holds. Not tried (no verdict); lapsed (was
 * competent, no pass within the currency); retrain (a stop breach not yet cleared by passes in a row, or the
 * last fails in a row once there are enough outcomes); watch (was competent and the last outcome failed, or
 * the last passes all marginal); competent (the last N passed); learning.
 * `nowMs`: ms since 1970. Example: `PFPPP` is competent, by its last 3.
 */
export function standingOf(history: SkillHistory, policy: Policy, nowMs: number): Standing {
  const marks = withVerdict(history.marks);
  const wasCompetent = longestRun(marks, isPassMark) >= policy.passesInARow;
  const give = (
    standing: StandingName,
    code: EvidenceCode,
    params: Readonly<Record<string, number>> = {},
  ): Standing => ({
    standing,
    evidence: { code, params },
    window: marks.slice(-policy.window),
    wasCompetent,
  });
  const n = marks.length;
  if (n === 0) return give('not_tried', 'standing.not_tried');
  if (wasCompetent && outOfCurrency(history.lastPassMs, policy.currencyMonths, nowMs)) {
    return give('lapsed', 'standing.lapsed', { months: policy.currencyMonths });
  }
  if (stopBreachOpen(marks, policy.passesInARow)) {
    return give('retrain', 'standing.stop_breach', { wanted: policy.passesInARow });
  }
  const fails = trailingRun(marks, isFailMark);
  if (fails >= policy.failsInARow && n >= policy.retrainAfter) {
    return give('retrain', 'standing.fails_in_a_row', { fails, n });
  }
  if (wasCompetent && fails > 0) return give('watch', 'standing.slipped', { fails });
  const marginal = trailingRun(marks, (mark) => mark === 'p');
  if (marginal >= policy.marginalInARow) return give('watch', 'standing.only_marginal', { marginal });
  const passes = trailingRun(marks, isPassMark);
  if (passes >= policy.passesInARow) return give('competent', 'standing.competent', { passes });
  return give('learning', 'standing.learning', { passes, n, wanted: policy.passesInARow });
}

function trailingRun(marks: string, holds: (mark: string) => boolean): number {
  let run = 0;
  while (run < marks.length && holds(marks[marks.length - 1 - run]!)) run += 1;
  return run;
}

function longestRun(marks: string, holds: (mark: string) => boolean): number {
  let longest = 0;
  let run = 0;
  for (const mark of marks) {
    run = holds(mark) ? run + 1 : 0;
    if (run > longest) longest = run;
  }
  return longest;
}

function stopBreachOpen(marks: string, wanted: number): boolean {
  const breach = marks.lastIndexOf('S');
  return breach >= 0 && longestRun(marks.slice(breach + 1), isPassMark) < wanted;
}

function outOfCurrency(lastPassMs: number | null, months: number, nowMs: number): boolean {
  if (lastPassMs === null) return true;
  const lapses = new Date(lastPassMs);
  const day = lapses.getUTCDate();
  lapses.setUTCDate(1);
  lapses.setUTCMonth(lapses.getUTCMonth() + months);
  const lastDay = new Date(Date.UTC(lapses.getUTCFullYear(), lapses.getUTCMonth() + 1, 0)).getUTCDate();
  lapses.setUTCDate(Math.min(day, lastDay));
  return nowMs > lapses.getTime();
}
