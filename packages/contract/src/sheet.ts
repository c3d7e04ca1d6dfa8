import {
  DIRECTIONS,
  FIBER_CLASSES,
  type MethodSheet,
  PIECE_KINDS,
  PLACES,
  REFERENCE_METHODS,
  TRUNK_TYPES,
  UNIT_CODES,
} from '@clear-mark/core';
import { z } from 'zod';
import { oneOf, SkillShape, ThingKindShape } from './common.ts';
import { LossRulesShape, Source, Words } from './loss-rules.ts';
import { DbPerKm } from './links.ts';

/**
 * The schema of a method as data, for packs that come from outside and for the shipped library. Strict: a key that
 * nobody knows is refused, since it would be a limit that nobody keeps. What a schema cannot see (crossed bands,
 * repeated ids, calls without a target) `checkSheet` of core refuses.
 */
const Id = z.string().min(1).max(200);
const Decimal = z.string().regex(/^-?\d{1,15}(\.\d{1,15})?$/);
const points = z.number().int().min(0).max(1000);

const Limit = z.strictObject({ value: Decimal, exclusive: z.boolean().optional(), source: Source });
const Band = z.strictObject({ lower: Limit.optional(), upper: Limit.optional(), target: Decimal.optional() });
const Uncertainty = z.strictObject({ value: Decimal, source: Source });
const Wavelengths = z.array(z.number().int().min(600).max(1700)).min(1);

const base = {
  id: Id,
  label: Words,
  skill: SkillShape.optional(),
  points,
  critical: z.boolean(),
  required: z.boolean(),
  stop: z.boolean().optional(),
  acceptsTrainee: z.boolean().optional(),
  hint: Words.optional(),
  faults: z.array(z.string().regex(/^[a-z0-9_]{1,60}$/)).optional(),
  source: Source,
};
const across = {
  fibers: z.number().int().min(1).optional(),
  darkFibers: z.array(z.number().int().min(1)).optional(),
  directions: z.array(oneOf(DIRECTIONS)).min(1).optional(),
};

const Link = z.strictObject({
  fiberClass: oneOf(FIBER_CLASSES),
  lengthM: z.number().min(0),
  ownFiber: z
    .array(z.strictObject({ lengthM: z.number().min(0), dbPerKm: DbPerKm }))
    .max(20)
    .optional(),
  matedPairs: z.number().int().min(0),
  splices: z.number().int().min(0),
  referenceMethod: oneOf(REFERENCE_METHODS),
});
const Level = z.strictObject({
  id: Id,
  label: Words,
  verdict: z.enum(['pass', 'marginal_pass', 'marginal_fail', 'fail']),
  points,
  drawing: z.string().optional(),
});
const unit = z.enum(UNIT_CODES);
const ChannelPartShape = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('cords'), crossed: z.boolean() }),
  z.strictObject({ kind: z.literal('cassette'), turned: z.boolean() }),
  z.strictObject({ kind: z.literal('trunk'), type: oneOf(TRUNK_TYPES) }),
]);

export const CriterionShape = z.discriminatedUnion('kind', [
  z.strictObject({ ...base, kind: z.literal('check') }),
  z.strictObject({
    ...base,
    kind: z.literal('measure'),
    unit,
    band: Band,
    less: z.string().min(1).max(200).optional(),
    rangeOf: z.string().min(1).max(200).optional(),
    uncertainty: Uncertainty.optional(),
  }),
  z.strictObject({ ...base, kind: z.literal('count'), noun: Words, band: Band }),
  z.strictObject({ ...base, kind: z.literal('timed'), band: Band }),
  z.strictObject({ ...base, kind: z.literal('grade'), levels: z.array(Level).min(2) }),
  z.strictObject({
    ...base,
    ...across,
    kind: z.literal('readings'),
    unit,
    band: Band,
    uncertainty: Uncertainty.optional(),
    combine: z.literal('mean_of_directions').optional(),
    wavelengthsNm: Wavelengths.optional(),
  }),
  z.strictObject({
    ...base,
    ...across,
    kind: z.literal('loss'),
    wavelengthsNm: Wavelengths,
    link: Link,
    rules: LossRulesShape,
    conditionedBy: Id.optional(),
  }),
  z.strictObject({
    ...base,
    kind: z.literal('map'),
    ports: z.number().int().min(2),
    trunk: oneOf(TRUNK_TYPES),
    parts: z.array(ChannelPartShape).optional(),
  }),
  z.strictObject({ ...base, kind: z.literal('call'), of: Id.optional() }),
]);

const Caution = z.strictObject({ text: Words, stop: z.boolean() });
const Step = z.strictObject({
  id: Id,
  title: Words,
  skill: SkillShape,
  place: oneOf(PLACES),
  how: z.string().max(4000),
  drawing: z.string().optional(),
  cautions: z.array(Caution).optional(),
  criteria: z.array(CriterionShape).min(1),
});

const Change = z.discriminatedUnion('change', [
  z.strictObject({ change: z.literal('leave_out'), criterion: Id }),
  z.strictObject({ change: z.literal('require'), criterion: Id, required: z.boolean() }),
  z.strictObject({ change: z.literal('band'), criterion: Id, band: Band }),
  z.strictObject({ change: z.literal('wavelengths'), criterion: Id, wavelengthsNm: Wavelengths }),
  z.strictObject({ change: z.literal('rules'), criterion: Id, rules: LossRulesShape.partial() }),
  z.strictObject({ change: z.literal('trunk'), criterion: Id, trunk: oneOf(TRUNK_TYPES) }),
  z.strictObject({ change: z.literal('how'), step: Id, how: Words }),
  z.strictObject({ change: z.literal('label'), criterion: Id, label: Words }),
  z.strictObject({
    change: z.literal('level'),
    criterion: Id,
    level: Id,
    verdict: Level.shape.verdict,
    points,
  }),
  z.strictObject({ change: z.literal('add_step'), after: Id, step: Step }),
  z.strictObject({ change: z.literal('fiber_class'), fiberClass: oneOf(FIBER_CLASSES) }),
  z.strictObject({
    change: z.literal('link_fiber'),
    criterion: Id,
    fiberClass: oneOf(FIBER_CLASSES),
    wavelengthsNm: Wavelengths,
    rules: LossRulesShape,
    under: z
      .record(
        Id,
        z.record(
          Id,
          z.strictObject({
            wavelengthsNm: Wavelengths.optional(),
            rules: LossRulesShape.partial().optional(),
          }),
        ),
      )
      .optional(),
  }),
]);
const PracticeOption = z.strictObject({
  id: Id,
  question: Words,
  options: z.array(z.strictObject({ id: Id, label: Words, changes: z.array(Change) })).min(2),
  default: Id,
  reason: Words,
});

export const MethodSheetShape = z.strictObject({
  id: Id,
  version: z.number().int().min(1),
  title: Words,
  summary: Words,
  pieceKind: oneOf(PIECE_KINDS),
  fiberClass: oneOf(FIBER_CLASSES),
  passMarkPercent: z.number().min(1).max(100),
  passMarkSource: Source,
  strip: z
    .strictObject({
      jacketMm: z.number().min(0),
      bufferMm: z.number().min(0),
      cleaveMm: z.number().min(0),
    })
    .optional(),
  cautions: z.array(Caution).min(1),
  thingsUsed: z.array(ThingKindShape),
  steps: z.array(Step).min(1),
  schools: z.array(PracticeOption).optional(),
  chosen: z.record(z.string(), z.string()).optional(),
  onLink: z.strictObject({ id: Id, label: Words }).optional(),
}) satisfies z.ZodType<MethodSheet>;
