import {
  isFail,
  isMarginal,
  type CriterionOutcome,
  type GroupOutcome,
  type Reason,
  type Verdict,
} from './types.ts';

export interface GroupRules {
  readonly passMarkPercent: number;
  readonly final: boolean;
  readonly marginalPassCounts: boolean;
  readonly marginalFailCounts: boolean;
}

type Plain = 'pass' | 'fail' | 'incomplete';

/** Forgiven in the comparison of points with the pass mark. */
const DUST = 1e-6;

const hasResult = (c: CriterionOutcome): boolean => c.state === 'scored';

/**
 * Verdict of a group of criteria (a step, a skill, the whole).
 *
 * Fails on a stop breach, when a critical criterion fails, or when full marks on all that is still open could
 * not reach the pass mark; passes when all required criteria have a result, none critical failed and the
 * mark is reached; otherwise incomplete. An optional criterion that was not scored is out of the possible
 * points; a void one leaves the group once the attempt is final. A pass is marginal when failing its marginal
 * passes would undo it, a fail when passing its marginal fails would.
 */
export function judgeGroup(all: readonly CriterionOutcome[], rules: GroupRules): GroupOutcome {
  const criteria = rules.final ? all.filter((c) => c.state !== 'void') : all;
  const passMarginal = rules.marginalPassCounts;
  const failMarginal = rules.marginalFailCounts;
  const plain = decide(criteria, rules, passMarginal, failMarginal);
  let verdict: Verdict = plain;
  if (plain === 'pass' && passMarginal && some(criteria, 'marginal_pass')) {
    if (decide(criteria, rules, false, failMarginal) !== 'pass') verdict = 'marginal_pass';
  } else if (plain === 'fail' && !failMarginal && some(criteria, 'marginal_fail')) {
    if (decide(criteria, rules, passMarginal, true) !== 'fail') verdict = 'marginal_fail';
  }
  return {
    verdict,
    points: pointsOf(criteria, rules),
    share: criteria.length === 0 ? 0 : criteria.filter(hasResult).length / criteria.length,
    reasons: reasonsOf(criteria, verdict, rules),
  };
}

function some(criteria: readonly CriterionOutcome[], verdict: Verdict): boolean {
  return criteria.some((c) => c.verdict === verdict);
}

function passesWith(c: CriterionOutcome, passMarginal: boolean, failMarginal: boolean): boolean {
  switch (c.verdict) {
    case 'pass':
      return true;
    case 'marginal_pass':
      return passMarginal;
    case 'marginal_fail':
      return failMarginal;
    default:
      return false;
  }
}

/** Points of a result under a treatment of the marginal verdicts: what it earned, its all, or none. */
function earnedWith(c: CriterionOutcome, passed: boolean): number {
  if (c.verdict === 'marginal_pass') return passed ? c.earned : 0;
  if (c.verdict === 'marginal_fail') return passed ? c.points : c.earned;
  return c.earned;
}

function decide(
  criteria: readonly CriterionOutcome[],
  rules: GroupRules,
  passMarginal: boolean,
  failMarginal: boolean,
): Plain {
  let earned = 0;
  let scored = 0;
  let open = 0;
  let requiredOpen = false;
  let results = 0;
  for (const c of criteria) {
    if (hasResult(c)) {
      const passed = passesWith(c, passMarginal, failMarginal);
      if (!passed && (c.critical || c.stop)) return 'fail';
      earned += earnedWith(c, passed);
      scored += c.points;
      results += 1;
    } else if (c.required) {
      requiredOpen = true;
      open += c.points;
    } else if (!rules.final) {
      open += c.points;
    }
  }
  const reaches = (got: number, of: number): boolean => got * 100 + DUST >= rules.passMarkPercent * of;
  if (!reaches(earned + open, scored + open)) return 'fail';
  if (requiredOpen || results === 0) return 'incomplete';
  return reaches(earned, scored) ? 'pass' : rules.final ? 'fail' : 'incomplete';
}

function pointsOf(criteria: readonly CriterionOutcome[], rules: GroupRules): GroupOutcome['points'] {
  let earned = 0;
  let possible = 0;
  let open = 0;
  for (const c of criteria) {
    const counts = hasResult(c) || c.required;
    if (!counts) continue;
    possible += c.points;
    if (!hasResult(c)) open += c.points;
    else earned += earnedWith(c, passesWith(c, rules.marginalPassCounts, rules.marginalFailCounts));
  }
  return { earned, possible, open };
}

function reasonsOf(
  criteria: readonly CriterionOutcome[],
  verdict: Verdict,
  rules: GroupRules,
): readonly Reason[] {
  if (verdict === 'pass') return [];
  const reasons: Reason[] = [];
  const failed = criteria.filter(
    (c) => hasResult(c) && !passesWith(c, rules.marginalPassCounts, rules.marginalFailCounts),
  );
  for (const c of failed) {
    if (c.stop) reasons.push({ code: 'group.stop_breach', params: { criterion: c.criterionId } });
    else if (c.critical)
      reasons.push({ code: 'group.critical_failed', params: { criterion: c.criterionId } });
  }
  const points = pointsOf(criteria, rules);
  const lost = points.possible - points.open - points.earned;
  if (isFail(verdict) && (points.possible - lost) * 100 + DUST < rules.passMarkPercent * points.possible) {
    const best = points.possible - lost;
    const params = { best, possible: points.possible, mark: rules.passMarkPercent };
    reasons.push({ code: 'group.pass_mark_missed', params });
  }
  if (isMarginal(verdict)) {
    const wanted = verdict;
    const count = criteria.filter((c) => c.verdict === wanted).length;
    reasons.push({ code: 'group.hangs_on_marginal', params: { count } });
  }
  if (verdict === 'incomplete') {
    const count = criteria.filter((c) => c.required && !hasResult(c)).length;
    if (count > 0) reasons.push({ code: 'group.required_open', params: { count } });
    else reasons.push({ code: 'group.nothing_scored', params: {} });
  }
  return reasons;
}
