import { dayIn, isPassMark, type Policy, type Standing, standingOf } from '@clear-mark/core';
import type { Person, SkillEvidence } from '@clear-mark/contract';
import { classForInstructor, classesStore } from '../../classes/index.ts';
import type { Database } from '../../database/database.ts';
import { AppError } from '../../errors/app-error.ts';
import { readLabels } from '../labels.ts';

import { signOffsStore } from './sign-offs.store.ts';
import { cellOf } from './standings.ts';
import { type OfSkill, type OutcomeRow, standingsStore } from './standings.store.ts';

interface Found {
  readonly trainee: { readonly id: string; readonly name: string };
  readonly policy: Policy;
  readonly timeZone: string;
  readonly outcomes: readonly OutcomeRow[];
  readonly signedOffAfter: readonly number[];
  readonly standing: Standing;
}

/** What the standing of one trainee in one skill rests on. Errors: those of the class, `not_found.person`. */
export async function standingFound(db: Database, of: OfSkill, me: Person, now: Date): Promise<Found> {
  const { policy, timeZone } = await classForInstructor(db, of.id, me);
  const trainee = (await classesStore(db).trainees(of.id)).find((t) => t.id === of.traineeId);
  if (!trainee) throw new AppError('not_found.person');
  const outcomes = await standingsStore(db).outcomes(of);
  const signed = await signOffsStore(db).positions(of.id);
  const signedOffAfter = signed
    .filter((s) => s.traineeId === of.traineeId && s.skill === of.skill)
    .map((s) => s.after);
  const last = outcomes.filter((o) => isPassMark(o.mark)).at(-1);
  const history = {
    marks: outcomes.map((o) => o.mark).join(''),
    lastPassMs: last ? Date.parse(last.startedAt) : null,
    signOffs: signedOffAfter,
  };
  const standing = standingOf(history, policy, now.getTime());
  return {
    trainee: { id: trainee.id, name: trainee.name },
    policy,
    timeZone,
    outcomes,
    signedOffAfter,
    standing,
  };
}

export async function skillEvidence(
  db: Database,
  of: OfSkill,
  me: Person,
  now: Date,
): Promise<SkillEvidence> {
  const found = await standingFound(db, of, me, now);
  const { policy, standing, outcomes } = found;
  const marks = outcomes.map((o) => o.mark).join('');
  const pair = { traineeId: of.traineeId, skill: of.skill };
  const [losses, labels, signOffs] = await Promise.all([
    standingsStore(db).windowLosses(of.id, [pair], policy.window),
    readLabels(db),
    signOffsStore(db).of(of.id, of.traineeId, of.skill),
  ]);
  return {
    trainee: found.trainee,
    policy,
    cell: cellOf(of.skill, marks, standing, losses, labels),
    lapsesOn: standing.lapsesMs === null ? null : dayIn(found.timeZone, standing.lapsesMs),
    outcomes: [...outcomes],
    signOffs,
    signedOffAfter: [...found.signedOffAfter],
    competentFrom: standing.competentFrom,
  };
}
