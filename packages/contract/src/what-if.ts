import { STANDINGS, VERDICTS } from '@clear-mark/core';
import { z } from 'zod';
import { PolicyShape } from './policy.ts';
import { Id, oneOf, QueryWhole, SkillShape } from './common.ts';
import { MethodVersion } from './methods.ts';
import { RateShape, ResultFilter } from './results.ts';
import { ById, CLASS_ERRORS, route } from './route.ts';

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
      skill: SkillShape,
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

const OfJob = ById.extend({ jobId: Id });

export const WHAT_IF_ROUTES = {
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
