import { STANDINGS } from '@clear-mark/core';
import { z } from 'zod';
import { PolicyShape } from './policy.ts';
import { Id, Instant, oneOf, SkillShape } from './common.ts';
import { DrillShape } from './school-tables.ts';
import { StandingCell } from './results.ts';
import { ById, CLASS_ERRORS, route } from './route.ts';

const maybe = z.number().nullable();
const whole = z.number().int();

export const PlanItem = z.object({
  id: Id,
  traineeId: Id,
  traineeName: z.string(),
  skill: SkillShape,
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

/** `drills`: those of the school, which go before shipped ones. */
export const Plan = z.object({
  items: z.array(PlanItem),
  sessions: z.array(PlanSession),
  drills: z.array(DrillShape),
});
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

const PLAN_ERRORS = [...CLASS_ERRORS, 'not_found.plan_item'] as const;
const OfItem = ById.extend({ itemId: Id });
const OfSession = ById.extend({ sessionId: Id });

export const PLAN_ROUTES = {
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
} as const;

/** The plan's sessions as an iCalendar file. */
export const PLAN_CALENDAR_PATH = '/api/classes/:id/plan.ics';
