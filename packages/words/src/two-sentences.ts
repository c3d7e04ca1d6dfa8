import type { Results, StandingCell } from '@clear-mark/contract';
import { type EvidenceCode, piecesAhead, type Policy, type Skill } from '@clear-mark/core';
import { aheadWords } from './ahead.ts';
import { skillInText, skillWords } from './names.ts';
import { evidenceWords } from './reasons.ts';

const skillName = (skill: Skill): string => skillInText(skill);
const listed = (parts: readonly string[]): string =>
  parts.length < 2 ? parts.join('') : `${parts.slice(0, -1).join(', ')} and ${parts[parts.length - 1]!}`;
const skillsOf = (cells: readonly StandingCell[], standing: StandingCell['standing']): string[] =>
  cells.filter((c) => c.standing === standing).map((c) => skillName(c.skill));

/** The rule by which a policy calls somebody competent. */
export function ruleWords(policy: Policy): string {
  switch (policy.competentBy) {
    case 'in_a_row':
      return `${policy.passesInARow} passes in a row`;
    case 'share':
      return `${policy.sharePasses} passes among the last ${policy.shareOf} outcomes`;
    case 'chart':
      return `the chart of learning, failure rates ${policy.pGood} against ${policy.pBad}, one false call in ${policy.falseSignalAfter} pieces`;
    default: {
      const never: never = policy.competentBy;
      return never;
    }
  }
}

const URGENT = ['retrain', 'lapsed', 'watch'] as const;
const ASKS: Readonly<Record<(typeof URGENT)[number], string>> = {
  retrain: 'Needs retraining in',
  lapsed: 'Has to show again',
  watch: 'Keep an eye on',
};

/**
 * What to tell a trainee, in two sentences: what is shown, and what comes next with its evidence and the step behind it. Made
 * by rules from the standings, so that the same results always say the same.
 */
export function traineeSentences(
  name: string,
  cells: readonly StandingCell[],
  policy: Pick<Policy, 'passesInARow'>,
): [string, string] {
  const competent = skillsOf(cells, 'competent');
  const learning = skillsOf(cells, 'learning');
  const tried = cells.filter((c) => c.standing !== 'not_tried');
  if (tried.length === 0) return [`${name} has no outcome with a verdict yet.`, 'Start with a first piece.'];
  const still = learning.length > 0 ? `is still learning ${listed(learning)}` : '';
  const shown = competent.length > 0 ? `is competent in ${listed(competent)}` : '';
  const first =
    shown || still
      ? `${name} ${[shown, still].filter((s) => s !== '').join(' and ')}.`
      : `${name} shows no skill as competent at the moment.`;
  return [first, nextSentence(cells, policy.passesInARow)];
}

function nextSentence(cells: readonly StandingCell[], wanted: number): string {
  for (const standing of URGENT) {
    const [worst, ...more] = cells.filter((c) => c.standing === standing);
    if (!worst) continue;
    const why = evidenceWords(worst.evidence.code as EvidenceCode, worst.evidence.params);
    const step = worst.behind ? `, mostly at “${worst.behind.stepTitle}”` : '';
    const also = more.length > 0 ? ` (and ${listed(more.map((c) => skillName(c.skill)))})` : '';
    return `${ASKS[standing]} ${skillName(worst.skill)}${also}: ${uncapital(why.replace(/\.$/, ''))}${step}.`;
  }
  const learning = cells.filter((c) => c.standing === 'learning');
  const near = learning
    .map((cell) => ({ cell, ahead: piecesAhead(cell.window, wanted) }))
    .filter((n) => n.ahead.kind === 'pieces')
    .sort((a, b) => piecesOf(a.ahead) - piecesOf(b.ahead))[0];
  if (near) {
    const words = aheadWords(near.ahead, wanted);
    return `Next is ${skillName(near.cell.skill)}: ${words === '' ? 'one more look.' : uncapital(words)}`;
  }
  return 'Nothing asks for retraining.';
}

const piecesOf = (ahead: ReturnType<typeof piecesAhead>): number =>
  ahead.kind === 'pieces' ? ahead.pieces : Infinity;
const uncapital = (text: string): string => text.charAt(0).toLowerCase() + text.slice(1);

/** The class in two sentences: its best and its weakest skill, and who needs what again. */
export function classSentences(results: Pick<Results, 'skills' | 'standings'>): [string, string] {
  const rates = results.skills
    .flatMap(({ skill, summary: { rate } }) => (rate.kind === 'rate' ? [{ skill, rate }] : []))
    .sort((a, b) => b.rate.share - a.rate.share);
  const best = rates[0];
  const worst = rates[rates.length - 1];
  if (!best || !worst) return ['Nothing is signed with a verdict yet.', 'Sign a first piece to see rates.'];
  const rateOf = ({ rate }: (typeof rates)[number]): string =>
    `${rate.k} of ${rate.n} passed (95 % interval ${Math.round(100 * rate.low)} to ${Math.round(100 * rate.high)} %)`;
  // Only rates whose intervals part are called best and weakest.
  const apart = best.rate.low > worst.rate.high;
  const first =
    rates.length === 1
      ? `In ${skillName(best.skill)} ${rateOf(best)}.`
      : apart
        ? `${skillWords(best.skill)} goes best, ${rateOf(best)}; ${skillName(worst.skill)} is the weakest, ${rateOf(worst)}.`
        : `The skills pass alike, from ${rateOf(worst)} in ${skillName(worst.skill)} to ${rateOf(best)} in ${skillName(best.skill)}.`;
  return [first, needsSentence(results.standings)];
}

function needsSentence(standings: Results['standings']): string {
  const retrain = standings.flatMap((s) =>
    s.cells.filter((c) => c.standing === 'retrain').map((c) => ({ name: s.traineeName, skill: c.skill })),
  );
  if (retrain.length === 0) {
    const watched = standings.filter((s) => s.cells.some((c) => c.standing === 'watch')).length;
    return watched === 0
      ? 'Nobody needs retraining.'
      : `Nobody needs retraining; ${watched === 1 ? 'one trainee is' : `${watched} trainees are`} on watch.`;
  }
  const names = [...new Set(retrain.map((r) => r.name))];
  const bySkill = new Map<Skill, number>();
  for (const { skill } of retrain) bySkill.set(skill, (bySkill.get(skill) ?? 0) + 1);
  const skills = [...bySkill].sort((a, b) => b[1] - a[1]).map(([skill, n]) => `${skillName(skill)} (${n})`);
  const who = names.length <= 3 ? listed(names) : `${names.length} trainees`;
  return `${who} ${names.length === 1 ? 'needs' : 'need'} retraining, in ${listed(skills)}.`;
}
