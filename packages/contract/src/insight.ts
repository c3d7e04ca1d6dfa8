import { CRITERION_KINDS } from '@clear-mark/core';
import { z } from 'zod';
import { PolicyShape } from './policy.ts';
import { Day, Id, oneOf, SkillShape, ThingKindShape } from './common.ts';
import { RateShape, ResultFilter, StandingCell } from './results.ts';
import { CLASS_ERRORS, ById, route } from './route.ts';

const maybe = z.number().nullable();

const SurvivalShape = z.object({
  n: z.number(),
  passed: z.number(),
  median: maybe,
  medianLow: maybe,
  medianHigh: maybe,
});

/** How a skill is learned: failures by attempt number, what it takes to the first pass, and rates by day. */
export const SkillInTime = z.object({
  skill: SkillShape,
  days: z.array(z.object({ day: Day, rate: RateShape, void: z.number() })),
  /** The days on which a later version of a method of this skill was first used. */
  versions: z.array(z.object({ day: Day, title: z.string(), version: z.number() })),
  /** The share failed at each trainee's 1st, 2nd, ... outcome, and the same never rising. */
  learning: z.array(z.object({ attempt: z.number(), rate: RateShape, level: z.number() })),
  /** Change of the odds of failing an attempt by logistic regression; null with the reason where there is none. */
  odds: z.object({ factor: z.number(), low: z.number(), high: z.number() }).nullable(),
  oddsNone: z.string().nullable(),
  attempts: SurvivalShape,
  minutes: SurvivalShape,
  /** Minutes of a first piece, their factor at twice the attempts, and how much of the spread that explains. */
  pace: z.object({ first: z.number(), onDoubling: z.number(), r2: maybe, n: z.number() }).nullable(),
});
export type SkillInTime = z.infer<typeof SkillInTime>;

export const SignOff = z.object({
  id: Id,
  at: z.string(),
  by: z.string(),
  rule: z.string(),
  evidence: z.string(),
  lapsesOn: Day,
  note: z.string(),
});
export type SignOff = z.infer<typeof SignOff>;

/** Everything that bears on one trainee's standing in one skill. */
export const SkillEvidence = z.object({
  trainee: z.object({ id: Id, name: z.string() }),
  policy: PolicyShape,
  cell: StandingCell,
  /** Day on which competence lapses without a further pass. */
  lapsesOn: Day.nullable(),
  outcomes: z.array(
    z.object({
      attemptId: Id,
      startedAt: z.string(),
      pieceLabel: z.string(),
      methodTitle: z.string(),
      mark: z.string(),
      minutes: maybe,
    }),
  ),
  signOffs: z.array(SignOff),
  /** How many outcomes with a verdict came before each sign-off. */
  signedOffAfter: z.array(z.number()),
  competentFrom: maybe,
});
export type SkillEvidence = z.infer<typeof SkillEvidence>;

export const NewSignOffBody = z.object({
  id: Id,
  traineeId: Id,
  skill: SkillShape,
  note: z.string().trim().max(300),
});

/** Criteria that fail together, and the pieces that a criterion cost. */
export const FailingTogether = z.object({
  pieces: z.array(z.object({ criterionId: z.string(), failedPieces: z.number(), aloneIn: z.number() })),
  pairs: z.array(
    z.object({
      first: z.string(),
      firstLabel: z.string(),
      second: z.string(),
      secondLabel: z.string(),
      together: z.number(),
      firstFailed: z.number(),
      secondFailed: z.number(),
      of: z.number(),
      expected: z.number(),
      p: z.number(),
    }),
  ),
});
export type FailingTogether = z.infer<typeof FailingTogether>;

/** Who and what stands apart from the others on comparable work: the trainee, the tool, or neither. */
export const Differences = z.object({
  /** How many were compared; with too little shared work none. */
  compared: z.number(),
  skills: z.array(
    z.object({
      skill: SkillShape,
      source: z.union([z.literal('trainee'), ThingKindShape]),
      id: Id,
      label: z.string(),
      k: z.number(),
      n: z.number(),
      expected: z.number(),
      difference: z.number(),
      low: z.number(),
      high: z.number(),
      p: z.number(),
    }),
  ),
  criteria: z.array(
    z.object({
      criterionId: z.string(),
      label: z.string(),
      traineeId: Id,
      traineeName: z.string(),
      failed: z.number(),
      n: z.number(),
      expected: z.number(),
      p: z.number(),
    }),
  ),
});
export type Differences = z.infer<typeof Differences>;

const KappaShape = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('none'), reason: z.string() }),
  z.object({ kind: z.literal('kappa'), kappa: z.number(), low: z.number(), high: z.number() }),
]);

/** How alike instructors judge, which criteria tell nothing or split them, and who is lenient. */
export const InstructorsView = z.object({
  pairs: z.array(
    z.object({
      first: z.string(),
      second: z.string(),
      what: z.enum(['pieces', 'series']),
      /** Rows the first, columns the second: pass, fail. */
      table: z.array(z.array(z.number())),
      kappa: KappaShape,
      ac1: KappaShape,
    }),
  ),
  leniency: z.array(
    z.object({
      id: Id,
      name: z.string(),
      rate: RateShape,
      /** Pass rate that the trainees, skills and months would give, and the difference with its interval. */
      expected: z.number(),
      difference: z.number(),
      low: z.number(),
      high: z.number(),
      p: z.number(),
      differs: z.boolean(),
    }),
  ),
  items: z.array(
    z.object({
      criterionId: z.string(),
      label: z.string(),
      stepTitle: z.string(),
      kind: oneOf(CRITERION_KINDS).nullable(),
      n: z.number(),
      failed: z.number(),
      upper: z.number(),
      /** Failing shares of instructors that differ beyond chance. */
      splits: z
        .object({
          p: z.number(),
          shares: z.array(z.object({ name: z.string(), failed: z.number(), n: z.number() })),
        })
        .nullable(),
    }),
  ),
});
export type InstructorsView = z.infer<typeof InstructorsView>;

export const GroupBody = z.object({ group: z.string().trim().max(30) });

export const INSIGHT_ROUTES = {
  skillsInTime: route('get /classes/:id/results/skills', 'instructor', {
    params: ById,
    query: ResultFilter,
    reply: z.array(SkillInTime),
    errors: CLASS_ERRORS,
  }),
  failingTogether: route('get /classes/:id/results/together', 'instructor', {
    params: ById,
    query: ResultFilter,
    reply: FailingTogether,
    errors: CLASS_ERRORS,
  }),
  differences: route('get /classes/:id/results/stands-out', 'instructor', {
    params: ById,
    query: ResultFilter,
    reply: Differences,
    errors: CLASS_ERRORS,
  }),
  instructorsView: route('get /classes/:id/results/instructors', 'lead', {
    params: ById,
    query: ResultFilter,
    reply: InstructorsView,
    errors: CLASS_ERRORS,
  }),
  skillEvidence: route('get /classes/:id/trainees/:traineeId/skills/:skill', 'instructor', {
    params: ById.extend({ traineeId: Id, skill: SkillShape }),
    reply: SkillEvidence,
    errors: [...CLASS_ERRORS, 'not_found.person'],
  }),
  /** Only what the policy's rule shows is signed off. */
  signOff: route('post /classes/:id/sign-offs', 'lead', {
    params: ById,
    body: NewSignOffBody,
    reply: SignOff,
    errors: [...CLASS_ERRORS, 'not_found.person', 'sign_off.not_shown'],
  }),
  setGroup: route('put /classes/:id/trainees/:traineeId/group', 'instructor', {
    params: ById.extend({ traineeId: Id }),
    body: GroupBody,
    errors: [...CLASS_ERRORS, 'not_found.person'],
  }),
} as const;
