import { CRITERION_KINDS, SKILLS, STANDINGS, THING_KINDS, VERDICTS } from '@clear-mark/core';
import { z } from 'zod';
import { PolicyShape } from './classes.ts';
import { Day, Id, Instant, oneOf, QueryWhole } from './common.ts';
import { MethodVersion } from './methods.ts';
import { RateShape, ResultFilter, StandingCell } from './results.ts';
import { CLASS_ERRORS, ById, route } from './route.ts';

const maybe = z.number().nullable();
const whole = z.number().int();

const SurvivalShape = z.object({
  n: z.number(),
  passed: z.number(),
  median: maybe,
  medianLow: maybe,
  medianHigh: maybe,
});

/** How a skill is learned: failures by attempt number, what it takes to the first pass, and rates by day. */
export const SkillInTime = z.object({
  skill: oneOf(SKILLS),
  days: z.array(z.object({ day: Day, rate: RateShape, void: z.number() })),
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
  skill: oneOf(SKILLS),
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
      skill: oneOf(SKILLS),
      source: z.enum(['trainee', ...THING_KINDS]),
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

export const PlanItem = z.object({
  id: Id,
  traineeId: Id,
  traineeName: z.string(),
  skill: oneOf(SKILLS),
  standing: oneOf(STANDINGS),
  evidence: StandingCell.shape.evidence,
  behind: StandingCell.shape.behind,
  window: z.string(),
  openedAt: z.string(),
  closedAt: z.string().nullable(),
  reopened: z.number(),
  /** Minutes that a piece takes: the class's own median, or the drill's where too few were timed. */
  minutesEach: z.number(),
  minutesFrom: z.enum(['class', 'drill']),
  pieces: maybe,
  minutes: maybe,
  drill: z.string().nullable(),
  sessionId: Id.nullable(),
});
export type PlanItem = z.infer<typeof PlanItem>;

export const PlanSession = z.object({
  id: Id,
  startsAt: z.string(),
  minutes: whole.min(5).max(1440),
  place: z.string().trim().max(80),
});
export type PlanSession = z.infer<typeof PlanSession>;

export const Plan = z.object({ items: z.array(PlanItem), sessions: z.array(PlanSession) });
export type Plan = z.infer<typeof Plan>;

/** How a trainee's own skills stand in a class, what is missing, and what is planned. */
export const OwnSkills = z.object({
  classId: Id,
  className: z.string(),
  timeZone: z.string(),
  policy: PolicyShape,
  skills: z.array(
    StandingCell.extend({
      /** What to practise, where something is asked for. */
      drill: z.string().nullable(),
      /** The session that the trainee is in for it. */
      session: PlanSession.nullable(),
    }),
  ),
});
export type OwnSkills = z.infer<typeof OwnSkills>;

export const PlanItemBody = z.object({
  pieces: whole.min(1).max(500).nullable(),
  minutes: whole.min(1).max(10_000).nullable(),
  drill: z.string().trim().max(500).nullable(),
  sessionId: Id.nullable(),
});
export type PlanItemBody = z.infer<typeof PlanItemBody>;
export const PlanSessionBody = PlanSession.omit({ id: true }).extend({ startsAt: Instant });

/** Where a page ended: the instant and the id of its last attempt. */
const ReplayCursor = z
  .string()
  .regex(/^20\d\d-[01]\d-[0-3]\dT[0-2]\d:[0-5]\d:[0-5]\d(\.\d{1,6})?Z [0-9a-f-]{36}$/)
  .refine(
    (text) => Number.isFinite(Date.parse(text.split(' ')[0]!)) && Id.safeParse(text.split(' ')[1]).success,
  );

/** One signed attempt with what scoring needs of it, small enough that thousands can be sent. */
export const ReplayAttempt = z.object({
  id: Id,
  traineeId: Id,
  traineeName: z.string(),
  pieceLabel: z.string(),
  startedAt: z.string(),
  versionId: Id,
  schools: z.record(z.string(), z.string()),
  link: z.unknown(),
  asVoid: z.boolean(),
  /** Packed, as core makes them. */
  entries: z.array(z.unknown()),
});
export type ReplayAttempt = z.infer<typeof ReplayAttempt>;
export const ReplayPage = z.object({
  total: z.number(),
  attempts: z.array(ReplayAttempt),
  /** Sheets and references that were not sent with a page before. */
  versions: z.array(MethodVersion),
  references: z.array(z.unknown()),
  next: z.string().nullable(),
});
export type ReplayPage = z.infer<typeof ReplayPage>;

/** What is moved: a limit, a pass mark, the policy. */
const limit = z.number().min(-1e6).max(1e6).nullable();
export const WhatIfSetting = z.object({
  label: z.string().max(80),
  passMark: z.number().min(0).max(100).nullable(),
  limit: z.object({ criterionId: z.string().max(200), max: limit, min: limit }).nullable(),
  policy: PolicyShape.nullable(),
});
export type WhatIfSetting = z.infer<typeof WhatIfSetting>;

export const WhatIfCounts = z.object({
  attempts: z.number(),
  changed: z.number(),
  newlyFailed: z.number(),
  newlyPassed: z.number(),
  skills: z.array(z.object({ skill: z.string(), before: RateShape, after: RateShape })),
  standings: z.array(
    z.object({
      traineeId: Id,
      traineeName: z.string(),
      skill: oneOf(SKILLS),
      before: oneOf(STANDINGS),
      after: oneOf(STANDINGS),
    }),
  ),
  /** The first of those that come out otherwise. */
  changes: z.array(
    z.object({
      attemptId: Id,
      traineeName: z.string(),
      pieceLabel: z.string(),
      startedAt: z.string(),
      before: oneOf(VERDICTS),
      after: oneOf(VERDICTS),
    }),
  ),
});
export type WhatIfCounts = z.infer<typeof WhatIfCounts>;

export const WhatIfJob = z.object({
  id: Id,
  state: z.enum(['running', 'done', 'cancelled', 'failed']),
  done: z.number(),
  total: z.number(),
  results: z.array(WhatIfCounts),
});
export type WhatIfJob = z.infer<typeof WhatIfJob>;
export const WhatIfBody = z.object({
  id: Id,
  settings: z.array(WhatIfSetting).min(1).max(2),
  filter: ResultFilter,
});

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

const PLAN_ERRORS = [...CLASS_ERRORS, 'not_found.plan_item'] as const;
const OfItem = ById.extend({ itemId: Id });
const OfSession = ById.extend({ sessionId: Id });
const OfJob = ById.extend({ jobId: Id });

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
    params: ById.extend({ traineeId: Id, skill: oneOf(SKILLS) }),
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
  plan: route('get /classes/:id/plan', 'instructor', { params: ById, reply: Plan, errors: CLASS_ERRORS }),
  ownSkills: route('get /me/skills', 'signed_in', { reply: z.array(OwnSkills) }),
  changePlanItem: route('put /classes/:id/plan/items/:itemId', 'instructor', {
    params: OfItem,
    body: PlanItemBody,
    errors: PLAN_ERRORS,
  }),
  savePlanSession: route('put /classes/:id/plan/sessions/:sessionId', 'instructor', {
    params: OfSession,
    body: PlanSessionBody,
    errors: PLAN_ERRORS,
  }),
  dropPlanSession: route('delete /classes/:id/plan/sessions/:sessionId', 'instructor', {
    params: OfSession,
    errors: PLAN_ERRORS,
  }),
  replay: route('get /classes/:id/replay', 'instructor', {
    params: ById,
    query: ResultFilter.extend({
      after: ReplayCursor.optional(),
      size: QueryWhole.optional(),
    }),
    reply: ReplayPage,
    errors: CLASS_ERRORS,
  }),
  startWhatIf: route('post /classes/:id/what-if', 'instructor', {
    params: ById,
    body: WhatIfBody,
    reply: WhatIfJob,
    errors: [...CLASS_ERRORS, 'what_if.too_many', 'what_if.bad_limit', 'what_if.bad_pass_mark'],
  }),
  whatIf: route('get /classes/:id/what-if/:jobId', 'instructor', {
    params: OfJob,
    reply: WhatIfJob,
    errors: [...CLASS_ERRORS, 'not_found.job'],
  }),
  cancelWhatIf: route('delete /classes/:id/what-if/:jobId', 'instructor', {
    params: OfJob,
    errors: [...CLASS_ERRORS, 'not_found.job'],
  }),
} as const;

/** The plan's sessions as an iCalendar file. */
export const PLAN_CALENDAR_PATH = '/api/classes/:id/plan.ics';
