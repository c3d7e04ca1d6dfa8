import { DIRECTIONS, RUN_RULES, STANDINGS, VERDICTS } from '@clear-mark/core';
import { z } from 'zod';
import { Day, Id, oneOf, QueryNumber, QueryWhole, SkillShape, ThingKindShape } from './common.ts';

const optional = <T extends z.ZodType>(type: T) => type.optional();

/** Filters of the results and of the lists behind each number; all of them live in the address. */
export const ResultFilter = z.object({
  from: optional(Day),
  to: optional(Day),
  method: optional(z.string().max(200)),
  trainee: optional(Id),
  thing: optional(Id),
  group: optional(z.string().max(30)),
});
export type ResultFilter = z.infer<typeof ResultFilter>;

/** What a list of attempts can be put in order by; the newest first where nothing is said. */
export const ATTEMPT_ORDERS = ['started', 'trainee', 'piece', 'method', 'verdict'] as const;
export type AttemptOrder = (typeof ATTEMPT_ORDERS)[number];

export const AttemptListFilter = ResultFilter.extend({
  /** Part of the trainee's name or of the piece's label, in whatever case. */
  search: optional(z.string().trim().min(1).max(60)),
  /** Who signed last. */
  instructor: optional(Id),
  sort: optional(oneOf(ATTEMPT_ORDERS)),
  /** From the oldest, the first letter or the passes on. */
  up: optional(z.literal('yes')),
  skill: optional(SkillShape),
  verdict: optional(z.enum([...VERDICTS, 'passed', 'failed', 'judged'])),
  criterion: optional(z.string().max(200)),
  wavelength: optional(QueryWhole),
  direction: optional(oneOf(DIRECTIONS)),
  lossFrom: optional(QueryNumber),
  lossTo: optional(QueryNumber),
  firstOnly: optional(z.literal('yes')),
  /** Each trainee's so-many-th outcome with a verdict within the other filters. */
  nth: optional(z.coerce.number().int().min(1).max(100_000)),
  last: optional(z.coerce.number().int().min(1).max(100)),
  /** How many of the newest are left out: for turning pages. */
  skip: optional(z.coerce.number().int().min(0).max(10_000_000)),
});
export type AttemptListFilter = z.infer<typeof AttemptListFilter>;

export const SplitQuery = ResultFilter.extend({ by: z.union([z.literal('day'), ThingKindShape]) });

export const RateShape = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('none') }),
  z.object({
    kind: z.literal('rate'),
    k: z.number(),
    n: z.number(),
    share: z.number(),
    low: z.number(),
    high: z.number(),
  }),
]);

const SkillSummaryShape = z.object({
  rate: RateShape,
  firstAttempt: RateShape,
  void: z.number(),
  incomplete: z.number(),
  marginal: z.number(),
  firstPassAt: z.array(z.number()),
  notYetPassed: z.number(),
});

const maybe = z.number().nullable();
const LossSummaryShape = z.object({
  n: z.number(),
  mean: z.number(),
  sd: maybe,
  median: z.number(),
  mad: z.number(),
  q05: z.number(),
  q25: z.number(),
  q75: z.number(),
  q95: z.number(),
  min: z.number(),
  max: z.number(),
  skewness: maybe,
  powerMeanDb: z.number(),
  over: z.number(),
  meanDistanceToLimitDb: z.number(),
});

export const LossSample = z.object({
  methodId: z.string(),
  methodTitle: z.string(),
  referenceMethod: z.string(),
  fiberClass: z.string(),
  wavelengthNm: z.number(),
  direction: z.enum(['', ...DIRECTIONS]),
  limitDb: z.number(),
  expectedDb: z.number(),
  summary: LossSummaryShape,
  histogram: z.object({ from: z.number(), width: z.number(), counts: z.array(z.number()) }),
  voidReadings: z.number(),
});
export type LossSample = z.infer<typeof LossSample>;

/** One sample in order of time: its method, reference, fiber class, wavelength and direction are never put together. */
export const LossSeriesQuery = ResultFilter.extend({
  method: z.string().max(200),
  reference: z.string().max(40),
  fiber: z.string().max(20),
  wavelength: QueryWhole,
  direction: optional(oneOf(DIRECTIONS)),
});

const ComponentShape = z.object({
  source: z.string(),
  sd: z.number(),
  share: z.number(),
  low: z.number(),
  high: z.number(),
});
const LevelShape = z.object({ level: z.string(), n: z.number(), effect: z.number(), error: z.number() });

export const LossSeries = z.object({
  /** Losses where all links have one limit, distances to the limit (limit less loss) where they differ. */
  measure: z.enum(['loss', 'distance']),
  limitDb: z.number().nullable(),
  /** All readings; the points are the newest of them. */
  n: z.number(),
  points: z.array(
    z.object({
      attemptId: Id,
      traineeName: z.string(),
      startedAt: z.string(),
      db: z.number(),
      /** Kinds of things of which another was used than for the reading before. */
      changed: z.array(z.object({ kind: ThingKindShape, label: z.string() })),
      /** The later version of the method, at its first reading. */
      newVersion: z.object({ title: z.string(), version: z.number() }).nullable(),
      out: z.boolean(),
      rules: z.array(oneOf(RUN_RULES)),
    }),
  ),
  chart: z.object({ centre: z.number(), low: z.number(), high: z.number() }).nullable(),
  /** Upper bounds of the losses, 95 % of them with 95 % confidence: by the normal distribution, and by order alone. */
  bounds: z.object({ normal: maybe, order: maybe, orderNeeds: maybe }).nullable(),
  /** What the spread goes with, as far as these readings can tell. */
  spreadSources: z.object({
    components: z
      .object({
        n: z.number(),
        sources: z.array(ComponentShape.extend({ levels: z.array(LevelShape) })),
        chance: ComponentShape,
      })
      .nullable(),
    left: z.array(z.object({ reason: z.string(), sources: z.array(z.string()) })),
  }),
});
export type LossSeries = z.infer<typeof LossSeries>;

/** How often a suggested cause was taken up, and how often it was dismissed. */
export const SuggestionCount = z.object({
  cause: z.string(),
  charged: z.number(),
  dismissed: z.number(),
});
export type SuggestionCount = z.infer<typeof SuggestionCount>;

export const CriterionFailure = z.object({
  criterionId: z.string(),
  label: z.string(),
  stepTitle: z.string(),
  skill: SkillShape,
  critical: z.boolean(),
  failed: z.number(),
  pointsLost: z.number(),
  faults: z.array(z.object({ code: z.string(), times: z.number() })),
});
export type CriterionFailure = z.infer<typeof CriterionFailure>;

export const StandingCell = z.object({
  skill: SkillShape,
  standing: oneOf(STANDINGS),
  evidence: z.object({ code: z.string(), params: z.record(z.string(), z.number()) }),
  window: z.string(),
  rate: RateShape,
  /** The criterion that cost most in the failed attempts of the window. */
  behind: z
    .object({ criterionId: z.string(), label: z.string(), stepTitle: z.string(), times: z.number() })
    .nullable(),
});
export type StandingCell = z.infer<typeof StandingCell>;

export const Results = z.object({
  skills: z.array(z.object({ skill: SkillShape, summary: SkillSummaryShape })),
  whole: SkillSummaryShape,
  losses: z.array(LossSample),
  failures: z.array(CriterionFailure),
  standings: z.array(z.object({ traineeId: Id, traineeName: z.string(), cells: z.array(StandingCell) })),
  signed: z.number(),
});
export type Results = z.infer<typeof Results>;

export const SplitRow = z.object({
  key: z.string(),
  label: z.string(),
  skills: z.array(
    z.object({
      skill: SkillShape,
      rate: RateShape,
      void: z.number(),
      /** Difference from the rest of the table beyond what chance explains. */
      signal: z.enum(['worse', 'better']).nullable(),
      p: z.number(),
    }),
  ),
});
export const Split = z.object({ by: z.string(), rows: z.array(SplitRow) });
export type Split = z.infer<typeof Split>;

export const AttemptRow = z.object({
  attemptId: Id,
  traineeId: Id,
  traineeName: z.string(),
  pieceLabel: z.string(),
  methodTitle: z.string(),
  startedAt: z.string(),
  day: z.string(),
  state: z.enum(['open', 'signed']),
  verdict: oneOf(VERDICTS),
  skills: z.partialRecord(SkillShape, oneOf(VERDICTS)),
  losses: z.array(z.object({ wavelengthNm: z.number(), lossDb: maybe })),
  reason: z.string().nullable(),
});
export type AttemptRow = z.infer<typeof AttemptRow>;
export const AttemptList = z.object({ total: z.number(), rows: z.array(AttemptRow) });
export type AttemptList = z.infer<typeof AttemptList>;
