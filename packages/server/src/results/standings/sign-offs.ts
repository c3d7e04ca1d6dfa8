import { monthsOn, type Policy, type Skill, type Standing, dayIn } from '@clear-mark/core';
import type { Person, SignOff } from '@clear-mark/contract';
import { evidenceWords, ruleWords } from '@clear-mark/words';
import type { Database } from '../../database/database.ts';
import { AppError } from '../../errors/app-error.ts';
import { standingFound } from './evidence.ts';
import { signOffsStore } from './sign-offs.store.ts';

interface Asked {
  readonly id: string;
  readonly traineeId: string;
  readonly skill: Skill;
  readonly note: string;
}

/**
 * The lead signs a trainee off in a skill: only while the policy's rule shows competence, with the rule's words, the evidence
 * and the attempts that it rests on as they are now, and the day on which it lapses. Errors: those of the class,
 * `not_found.person`, `sign_off.not_shown`.
 */
export async function signOff(
  db: Database,
  classId: string,
  asked: Asked,
  me: Person,
  now: Date,
): Promise<SignOff> {
  const of = { id: classId, traineeId: asked.traineeId, skill: asked.skill };
  return db.transaction(async (trx) => {
    const { policy, timeZone, outcomes, standing } = await standingFound(trx, of, me, now);
    if (standing.standing !== 'competent') throw new AppError('sign_off.not_shown');
    const rests = restsOn(policy, standing);
    const row = {
      id: asked.id,
      class_id: classId,
      trainee_id: asked.traineeId,
      skill: asked.skill,
      note: asked.note,
      rule: ruleWords(policy),
      evidence: evidenceWords(standing.evidence.code, standing.evidence.params),
      attempt_ids: outcomes.slice(-rests).map((o) => o.attemptId),
      lapses_on: dayIn(timeZone, monthsOn(now.getTime(), policy.currencyMonths)),
      by: me.id,
      at: now.toISOString(),
    };
    await signOffsStore(trx).insert(row);
    const kept = (await signOffsStore(trx).of(classId, asked.traineeId, asked.skill)).find(
      (s) => s.id === asked.id,
    );
    if (!kept) throw new AppError('sign_off.not_shown');
    return kept;
  });
}

/** How many of the last outcomes the rule looked at. */
function restsOn(policy: Policy, standing: Standing): number {
  switch (policy.competentBy) {
    case 'in_a_row':
      return policy.passesInARow;
    case 'share':
      return policy.shareOf;
    case 'chart':
      return standing.window.length;
    default: {
      const never: never = policy.competentBy;
      return never;
    }
  }
}
