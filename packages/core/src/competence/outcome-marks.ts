import { DomainError } from '../domain-error.ts';
import { isFail, isPass, type Outcome, type Verdict } from '../scoring/index.ts';
import type { Skill } from '../sheet/index.ts';

/**
 * One letter an outcome, so that a trainee's history in a skill is a short text in order of time:
 * P pass, p marginal pass, F fail, f marginal fail, S stop breach, V void, I incomplete.
 */
export const OUTCOME_MARKS = ['P', 'p', 'F', 'f', 'S', 'V', 'I'] as const;
export type OutcomeMark = (typeof OUTCOME_MARKS)[number];

const MARK_OF: Readonly<Record<Verdict, OutcomeMark>> = {
  pass: 'P',
  marginal_pass: 'p',
  fail: 'F',
  marginal_fail: 'f',
  void: 'V',
  incomplete: 'I',
};

/** The mark of a verdict; a fail that a stop breach caused has its own. */
export function outcomeMark(verdict: Verdict, stopBreach: boolean): OutcomeMark {
  return stopBreach && verdict === 'fail' ? 'S' : MARK_OF[verdict];
}

/** The mark of one skill of an outcome, a stop breach charged to the skill of its criterion; null where it has none. */
export function skillMark(outcome: Outcome, skill: Skill): OutcomeMark | null {
  const group = outcome.skills[skill];
  if (!group) return null;
  const stop =
    outcome.stops?.some((s) => s.skill === skill) ||
    outcome.criteria.some((c) => c.stop && c.verdict === 'fail' && c.skill === skill);
  return outcomeMark(group.verdict, stop);
}

const VERDICT_OF: Readonly<Record<OutcomeMark, Verdict>> = {
  P: 'pass',
  p: 'marginal_pass',
  F: 'fail',
  f: 'marginal_fail',
  S: 'fail',
  V: 'void',
  I: 'incomplete',
};

/** The verdict behind a mark. Error: `competence.unknown_mark`. */
export function verdictOfMark(mark: string): Verdict {
  const verdict = VERDICT_OF[mark as OutcomeMark];
  if (verdict === undefined) throw new DomainError('competence.unknown_mark', { mark });
  return verdict;
}

/** The marks whose verdict is one of these; a fail and a stop breach have the same verdict. */
export const marksOf = (...verdicts: readonly Verdict[]): readonly OutcomeMark[] =>
  OUTCOME_MARKS.filter((mark) => verdicts.includes(VERDICT_OF[mark]));

export const PASS_MARKS: readonly OutcomeMark[] = OUTCOME_MARKS.filter((m) => isPass(VERDICT_OF[m]));
export const FAIL_MARKS: readonly OutcomeMark[] = OUTCOME_MARKS.filter((m) => isFail(VERDICT_OF[m]));
/** The marks that carry a verdict on the work: void and incomplete say nothing about it. */
export const JUDGED_MARKS: readonly OutcomeMark[] = [...PASS_MARKS, ...FAIL_MARKS];

const PASSED: ReadonlySet<string> = new Set(PASS_MARKS);
const FAILED: ReadonlySet<string> = new Set(FAIL_MARKS);
/** Whether a mark of a history is a pass, marginal ones too. Any text; `verdictOfMark` refuses what is no mark. */
export const isPassMark = (mark: string): boolean => PASSED.has(mark);
/** Whether a mark of a history is a fail, marginal ones and stop breaches too. */
export const isFailMark = (mark: string): boolean => FAILED.has(mark);

/** The outcomes that carry a verdict, void and incomplete left out. Error: `competence.unknown_mark`. */
export function withVerdict(history: string): string {
  let kept = '';
  for (const mark of history) {
    if (isPassMark(mark) || isFailMark(mark)) kept += mark;
    else if (mark !== 'V' && mark !== 'I') throw new DomainError('competence.unknown_mark', { mark });
  }
  return kept;
}
