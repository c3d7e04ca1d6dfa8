import {
  CALLS,
  type CallsResult,
  CORE_CLASSES,
  FACE_FAULTS,
  FACE_REFUSALS,
  FACE_ZONES,
  type FaceCriteria,
  type FaceGrade,
  type FaceReview,
  FEATURE_KINDS,
  type GradedFace,
  type MeasuredFace,
  type MeasuredFeature,
  type MeasuredRow,
  SOURCE_KINDS,
} from '@clear-mark/core';
import { z } from 'zod';
import { Id, Instant, Label, Note, oneOf } from './common.ts';

export const FACE_SOURCES = ['file', 'clipboard', 'camera', 'stand_in'] as const;
export const FACE_VIEWS = ['single', 'row'] as const;
export const MOST_PICTURE_BYTES = 12_000_000;
export const Sha256 = z.string().regex(/^[0-9a-f]{64}$/);

const um = z.number().min(-2000).max(2000);
const sizeUm = z.number().positive().max(1000);
const SizeBandShape = z.object({
  fromUm: z.number().min(0).max(1000),
  toUm: z.number().min(0).max(1000),
  under: z.boolean().optional(),
  count: z.number().int().min(0).max(1000).nullable(),
});
const RuleShape = z.union([z.literal('no_limit'), z.array(SizeBandShape).max(8).readonly()]);
const ZoneRuleShape = z.object({
  zone: oneOf(FACE_ZONES),
  fromUm: z.number().min(0).max(1000),
  toUm: z.number().positive().max(1000),
  scratches: RuleShape,
  defects: RuleShape,
});

/** A class's own table of criteria: each save is a new version, and what was graded keeps the one it was graded by. */
export const FaceTableBody = z.object({
  /** The shipped table that it began as. */
  base: z.string().regex(/^[a-z-]{1,20}$/),
  title: Label,
  zones: z
    .array(ZoneRuleShape)
    .min(1)
    .max(4)
    .refine(
      (zones) => zones.every((z_, i) => z_.toUm > z_.fromUm && (i === 0 || z_.fromUm >= zones[i - 1]!.toUm)),
      {
        message: 'zones follow each other outward',
      },
    )
    .readonly(),
  source: z.object({
    kind: z.enum(SOURCE_KINDS),
    fromMemory: z.boolean(),
    words: z.string().trim().min(1).max(200),
  }),
});
export const FaceTable = FaceTableBody.omit({ base: true }).extend({
  id: z.string(),
  version: z.number().int(),
}) satisfies z.ZodType<FaceCriteria>;
export type FaceTable = z.infer<typeof FaceTable>;

export const FaceReviewShape = z.object({
  rejected: z.array(z.number().int().min(0)).max(2000).readonly(),
  kinds: z
    .array(z.object({ feature: z.number().int().min(0), kind: oneOf(FEATURE_KINDS) }))
    .max(2000)
    .readonly(),
  added: z
    .array(
      z.discriminatedUnion('kind', [
        z.object({ kind: z.literal('defect'), xUm: um, yUm: um, sizeUm }),
        z.object({
          kind: z.literal('scratch'),
          fromUm: z.tuple([um, um]).readonly(),
          toUm: z.tuple([um, um]).readonly(),
          sizeUm,
        }),
      ]),
    )
    .max(200)
    .readonly(),
  verdict: z.object({ says: oneOf(CALLS), reason: Note }).nullable(),
}) satisfies z.ZodType<FaceReview>;

const place = z.tuple([z.number(), z.number()]).readonly();
const Feature = z.object({
  kind: oneOf(FEATURE_KINDS),
  sizeUm: z.number().min(0),
  xUm: um,
  yUm: um,
  nearestUm: z.number().min(0),
  farthestUm: z.number().min(0),
  lengthUm: z.number().min(0).optional(),
  uncertaintyUm: z.number().min(0),
  areaUm2: z.number().min(0),
  contrast: z.number(),
  outlineUm: z.array(place).max(4000).readonly(),
}) satisfies z.ZodType<MeasuredFeature>;
const Refused = z.object({ ok: z.literal(false), reason: oneOf(FACE_REFUSALS) });
const Graded = z.object({
  ok: z.literal(true),
  umPerPx: z.number().positive(),
  centrePx: place,
  claddingDiameterPx: z.number().positive(),
  blurUm: z.number(),
  core: z.object({ class: oneOf(CORE_CLASSES), radiusUm: z.number().nullable() }),
  contactSeen: z.number().min(0).max(1),
  features: z.array(Feature).max(5000).readonly(),
  /** Worked out again by whoever relies on it. */
  grade: z.custom<FaceGrade>((x) => typeof x === 'object' && x !== null),
}) satisfies z.ZodType<GradedFace>;
const Row = z.object({
  ok: z.literal(true),
  fibers: z
    .array(z.object({ fiber: z.number().int().min(1), centrePx: place, face: z.union([Graded, Refused]) }))
    .min(1)
    .max(80)
    .readonly(),
  verdict: oneOf(CALLS).nullable(),
});
/** What the engine found, as it gave it: a face, a row, or a refusal. */
export const EngineAnswer = z.union([Refused, Row, Graded]) satisfies z.ZodType<MeasuredFace | MeasuredRow>;

export const NewFaceBody = z.object({
  id: Id,
  sha256: Sha256,
  label: z.string().trim().min(1).max(120),
  width: z.number().int().min(1).max(20_000),
  height: z.number().int().min(1).max(20_000),
  view: z.enum(FACE_VIEWS),
  source: z.enum(FACE_SOURCES),
  takenAt: Instant,
  attemptId: Id.nullable(),
  traineeId: Id.nullable(),
  /** The picture before cleaning, of which this is the one after. */
  beforeId: Id.nullable(),
  table: FaceTable,
  engine: EngineAnswer,
  /** Known faults of a picture by the stand-in. */
  faults: z.array(oneOf(FACE_FAULTS)).max(20),
});
export type NewFaceBody = z.infer<typeof NewFaceBody>;

export const FaceGradingBody = z.object({
  id: Id,
  review: FaceReviewShape,
  /** What the trainee said of it, where it was asked. */
  traineeSaid: oneOf(CALLS).nullable(),
});
export const FaceGrading = FaceGradingBody.extend({
  verdict: oneOf(CALLS).nullable(),
  by: z.string(),
  at: z.string(),
});
export type FaceGrading = z.infer<typeof FaceGrading>;

/** A picture of the class as a list shows it. */
export const FaceRow = z.object({
  id: Id,
  label: z.string(),
  view: z.enum(FACE_VIEWS),
  source: z.enum(FACE_SOURCES),
  takenAt: z.string(),
  takenBy: z.string(),
  attemptId: Id.nullable(),
  traineeId: Id.nullable(),
  traineeName: z.string().nullable(),
  pieceLabel: z.string().nullable(),
  beforeId: Id.nullable(),
  tableId: z.string(),
  engineVerdict: oneOf(CALLS).nullable(),
  /** Probability of a pass by what the engine saw, 0 to 1; null for a row and for what was not graded. */
  chance: z.number().min(0).max(1).nullable(),
  verdict: oneOf(CALLS).nullable(),
  traineeSaid: oneOf(CALLS).nullable(),
  faults: z.array(oneOf(FACE_FAULTS)),
});
export type FaceRow = z.infer<typeof FaceRow>;
export const FaceDocument = FaceRow.extend({
  width: z.number().int(),
  height: z.number().int(),
  table: FaceTable,
  engine: EngineAnswer,
  grading: FaceGrading.nullable(),
});
export type FaceDocument = z.infer<typeof FaceDocument>;
export const FaceListQuery = z.object({ attemptId: Id.optional() });

export const NewSeriesBody = z.object({
  id: Id,
  label: Label,
  /** In the order in which they are shown. */
  faceIds: z.array(Id).min(4).max(200),
  missWeight: z.number().min(1).max(20),
  secondsEach: z.number().int().min(3).max(300).nullable(),
});
export type NewSeriesBody = z.infer<typeof NewSeriesBody>;

export const CallsResultShape = z.custom<CallsResult>((x) => typeof x === 'object' && x !== null);
export const SeriesRun = z.object({
  id: Id,
  personId: Id,
  personName: z.string(),
  startedAt: z.string(),
  finishedAt: z.string().nullable(),
  answered: z.number().int(),
  result: CallsResultShape.nullable(),
  /** The attempt that carries it to the inspect skill. */
  attemptId: Id.nullable(),
});
export type SeriesRun = z.infer<typeof SeriesRun>;
export const CallSeries = z.object({
  id: Id,
  label: z.string(),
  faces: z.number().int(),
  bad: z.number().int(),
  missWeight: z.number(),
  secondsEach: z.number().int().nullable(),
  madeAt: z.string(),
  runs: z.array(SeriesRun),
  agreements: z.array(
    z.object({
      one: z.string(),
      other: z.string(),
      n: z.number().int(),
      same: z.number().int(),
      kappa: z.number().nullable(),
      low: z.number().nullable(),
      high: z.number().nullable(),
    }),
  ),
});
export type CallSeries = z.infer<typeof CallSeries>;

/** A series as the one who is to call it sees it: nothing of what the faces are. */
export const OwnSeries = z.object({
  id: Id,
  label: z.string(),
  className: z.string(),
  faces: z.number().int(),
  secondsEach: z.number().int().nullable(),
  run: z
    .object({
      id: Id,
      answered: z.number().int(),
      finished: z.boolean(),
      result: CallsResultShape.nullable(),
    })
    .nullable(),
});
export type OwnSeries = z.infer<typeof OwnSeries>;

export const CallMark = z.object({
  x: z.number().min(0).max(1),
  y: z.number().min(0).max(1),
  kind: oneOf(FACE_FAULTS),
});
export const CallAnswerBody = z.object({
  position: z.number().int().min(0).max(199),
  said: oneOf(CALLS),
  /** Places in shares of the picture's width and height. */
  marks: z.array(CallMark).max(20),
  ms: z.number().int().min(0).max(3_600_000),
});
/** What was found on a face, as it is drawn over its picture: pixels of the picture, micrometres from its centre. */
export const SeenFace = z.object({
  width: z.number().int().positive(),
  height: z.number().int().positive(),
  umPerPx: z.number().positive(),
  centrePx: place,
  claddingDiameterPx: z.number().positive(),
  features: z.array(
    z.object({
      kind: z.enum(['scratch', 'defect']),
      sizeUm: z.number(),
      xUm: z.number(),
      yUm: z.number(),
      outlineUm: z.array(place),
    }),
  ),
});
export type SeenFace = z.infer<typeof SeenFace>;
/** One face after the end: what it was, what was said, what is on it. */
export const ReviewedCall = z.object({
  position: z.number().int(),
  reference: oneOf(CALLS),
  said: oneOf(CALLS).nullable(),
  faults: z.array(oneOf(FACE_FAULTS)),
  marks: z.array(CallMark),
  ms: z.number().int().nullable(),
  seen: SeenFace.nullable(),
});
export const FinishedRun = z.object({
  result: CallsResultShape,
  calls: z.array(ReviewedCall),
  attemptId: Id.nullable(),
});
export type FinishedRun = z.infer<typeof FinishedRun>;

/** Pictures cross the wire as they are, outside of the JSON routes. */
export const PICTURE_PATHS = {
  blob: '/api/classes/:id/face-blobs/:sha256',
  face: '/api/classes/:id/faces/:faceId/picture',
  call: '/api/runs/:id/pictures/:position',
} as const;
