import {
  CLEAVE_CLASSES,
  END_LAYERS,
  END_REFUSALS,
  JOINT_REFUSALS,
  SIDE_REFUSALS,
  SPLICE_CLASSES,
} from '@clear-mark/core';
import { z } from 'zod';
import { DecimalText, Id, Instant, oneOf } from './common.ts';
import { Sha256 } from './faces.ts';
import { ById, CLASS_ERRORS, route } from './route.ts';

/** What pictures are measured for. */
export const MEASURED_KINDS = ['cleave', 'end', 'splice'] as const;
export const MEASURED_SOURCES = ['camera', 'file', 'stand_in'] as const;
const place = z.object({ x: z.number(), y: z.number() });
const line = z.tuple([place, place]).readonly();
export const FaceLineShape = line;

/** One end as the engine found it: its angle with its standard uncertainty in degrees, what it looks like, and the lines that are drawn. */
const CleavedEndShape = z.object({
  side: z.enum(['left', 'right']),
  angleDeg: z.number().nullable(),
  angleSd: z.number().nullable(),
  class: oneOf(CLEAVE_CLASSES),
  signs: z.record(z.string(), z.unknown()),
  isDirty: z.boolean(),
  face: line,
  axis: line,
  edges: z.array(line).max(10).readonly(),
});
/** What the engine said of a picture, as it said it. */
export const CleaveReadingShape = z.discriminatedUnion('ok', [
  z.object({
    ok: z.literal(true),
    umPerPx: z.number().positive(),
    umPerPxSd: z.number().positive(),
    ends: z.array(CleavedEndShape).min(1).max(2).readonly(),
  }),
  z.object({ ok: z.literal(false), reason: oneOf(SIDE_REFUSALS) }),
]);

const EndLengthShape = z.object({
  mm: z.number().positive(),
  sdMm: z.number().positive(),
  /** Standard uncertainties, mm, by where they come from. */
  budget: z.object({
    edges: z.number(),
    marks: z.number(),
    print: z.number(),
    height: z.number(),
    curvature: z.number(),
  }),
});
/** What the engine said of a prepared end on its card. */
export const EndReadingShape = z.discriminatedUnion('ok', [
  z.object({
    ok: z.literal(true),
    jacket: EndLengthShape.nullable(),
    buffer: EndLengthShape.nullable(),
    glass: EndLengthShape.nullable(),
    jacketDiameter: z.object({ mm: z.number(), sdMm: z.number() }).nullable(),
    print: z.object({ scale: z.number(), sd: z.number() }),
    pxPerMm: z.number().positive(),
    seen: z
      .array(z.object({ of: z.enum(['tip', 'glass', 'buffer', 'jacket']), line }))
      .max(4)
      .readonly(),
    path: z
      .array(place.extend({ mm: z.number() }))
      .max(200)
      .readonly(),
    outline: z.array(place).max(4).readonly(),
  }),
  z.object({ ok: z.literal(false), reason: oneOf(END_REFUSALS) }),
]);

const WithSdShape = z.object({ value: z.number(), sd: z.number().nonnegative() });
/** What the engine said of a joint after the arc: µm, degrees, dB at 1310 nm, and the places that are drawn. */
export const SpliceReadingShape = z.discriminatedUnion('ok', [
  z.object({
    ok: z.literal(true),
    umPerPx: z.number().positive(),
    umPerPxSd: z.number().positive(),
    class: oneOf(SPLICE_CLASSES),
    offsetUm: WithSdShape,
    coreOffsetUm: WithSdShape.nullable(),
    angleDeg: WithSdShape,
    diameterChangeUm: WithSdShape,
    bubbleUm: WithSdShape.nullable(),
    lossDb: WithSdShape,
    views: z
      .array(
        z.object({
          joint: place,
          axes: z.array(line).max(2).readonly(),
          edges: z.array(z.array(place).max(60).readonly()).max(2).readonly(),
        }),
      )
      .min(1)
      .max(2)
      .readonly(),
  }),
  z.object({ ok: z.literal(false), reason: oneOf(JOINT_REFUSALS) }),
]);

/** A picture that a value of a sheet was measured in. */
const NewPicture = z.object({
  id: Id,
  criterionId: z.string().min(1).max(200),
  sha256: Sha256,
  width: z.number().int().min(1).max(20_000),
  height: z.number().int().min(1).max(20_000),
  source: oneOf(MEASURED_SOURCES),
  takenAt: Instant,
  /** The value and its expanded uncertainty (k = 2) as they go into the sheet. */
  value: DecimalText,
  expanded: DecimalText,
});
const CleavePicture = NewPicture.extend({
  kind: z.literal('cleave'),
  reading: CleaveReadingShape,
  /** Which of the ends the value is of. */
  side: z.enum(['left', 'right']),
  /** The face line as somebody dragged it; null where it is the engine's. */
  dragged: line.nullable(),
});
const EndPicture = NewPicture.extend({
  kind: z.literal('end'),
  reading: EndReadingShape,
  /** From which edge to the end of the glass the value goes. */
  layer: oneOf(END_LAYERS),
  /** That edge as somebody dragged it along the cable, mm from the tip; null where it is the engine's. */
  dragged: z.number().positive().max(300).nullable(),
});
/** The value of a joint is its loss, dB at 1310 nm. */
const SplicePicture = NewPicture.extend({
  kind: z.literal('splice'),
  reading: SpliceReadingShape,
  /** The level of the criterion that it was taken as: the engine's, or the one that somebody chose instead. */
  level: z.string().min(1).max(60),
  /** The column of the joint as somebody dragged it, which the reading was made anew with; null where the engine found it. */
  dragged: z.number().min(0).max(20_000).nullable(),
});
export const NewMeasuredPictureBody = z.discriminatedUnion('kind', [
  CleavePicture,
  EndPicture,
  SplicePicture,
]);
export type NewMeasuredPictureBody = z.infer<typeof NewMeasuredPictureBody>;

const takenBy = { takenBy: z.string() };
export const MeasuredPicture = z.discriminatedUnion('kind', [
  CleavePicture.extend(takenBy),
  EndPicture.extend(takenBy),
  SplicePicture.extend(takenBy),
]);
export type MeasuredPicture = z.infer<typeof MeasuredPicture>;

const OfAttempt = ById.extend({ attemptId: Id });
export const MEASURED_PICTURE_PATH = '/api/classes/:id/attempts/:attemptId/measured/:pictureId/picture';
export const MEASURED_ROUTES = {
  measuredPictures: route('get /classes/:id/attempts/:attemptId/measured', 'instructor', {
    params: OfAttempt,
    reply: z.array(MeasuredPicture),
    errors: [...CLASS_ERRORS, 'not_found.attempt'],
  }),
  addMeasuredPicture: route('post /classes/:id/attempts/:attemptId/measured', 'instructor', {
    params: OfAttempt,
    body: NewMeasuredPictureBody,
    reply: MeasuredPicture,
    errors: [
      ...CLASS_ERRORS,
      'not_found.attempt',
      'face.no_picture',
      'face.wrong_size',
      'face.attempt_signed',
      'measured.other_value',
      'entry.unknown_criterion',
      'request.already_there',
    ],
  }),
} as const;
