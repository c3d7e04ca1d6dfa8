import {
  type AttemptLink,
  COEFFICIENTS,
  FIBER_CLASSES,
  FIBER_MODES,
  LINK_ENDS,
  LINK_JOINTS,
  type LinkPlan,
  type LossSettings,
  type LossTable,
  MAX_FIBERS,
  POLISHES,
  REFERENCE_METHODS,
  TRUNK_TYPES,
  wavelengthsOfMode,
} from '@clear-mark/core';
import { z } from 'zod';
import { Id, Label, Name, oneOf } from './common.ts';
import { Db, LossRulesShape } from './loss-rules.ts';

/** A figure of a school's own; more than 20 dB is no allowance. */
const OwnDb = Db.extend({ db: z.number().min(0).max(20) });
const polish = oneOf(POLISHES);
/** Any number: what is too short or too long is said by core in words, not refused as a shape. */
const lengthM = z.number().min(0).max(1e9);

/** Coefficients by wavelength in nm; more than 100 dB/km is no fiber of a building. */
export const DbPerKm = z.record(
  z.string().regex(/^\d{3,4}$/),
  z.number().min(0.1, 'a fiber loses 0.1 dB/km at least').max(20, 'a fiber loses 20 dB/km at most'),
);

export const LinkPlanShape = z.object({
  fiberClass: oneOf(FIBER_CLASSES),
  fibers: z.number().int().min(1).max(MAX_FIBERS),
  darkFibers: z.array(z.number().int().min(1).max(MAX_FIBERS)).max(MAX_FIBERS).optional(),
  ends: z.tuple([oneOf(LINK_ENDS), oneOf(LINK_ENDS)]),
  segments: z
    .array(
      z.discriminatedUnion('kind', [
        z.object({
          kind: z.literal('cable'),
          lengthM,
          polish,
          coreUm: z.number().positive().optional(),
          dbPerKm: DbPerKm.optional(),
        }),
        z.object({ kind: z.literal('trunk'), lengthM, polish, trunk: oneOf(TRUNK_TYPES), pins: z.boolean() }),
        z.object({ kind: z.literal('cassette'), polish, turned: z.boolean(), pins: z.boolean() }),
      ]),
    )
    .max(20),
  joints: z.array(oneOf(LINK_JOINTS)).max(19),
}) satisfies z.ZodType<LinkPlan>;

/** What a school allows for the parts of a link; figures for the wavelengths that such fiber is tested at, and no others. */
export const LossTableShape = z
  .strictObject({
    fiber: oneOf(FIBER_MODES),
    fiberDbPerKm: z.record(z.string(), OwnDb),
    connectionDb: OwnDb,
    spliceDb: OwnDb,
  })
  .refine(
    (t) => Object.keys(t.fiberDbPerKm).sort().join() === wavelengthsOfMode(t.fiber).map(String).sort().join(),
    'a coefficient for each wavelength that this fiber is tested at is needed, and no other',
  ) satisfies z.ZodType<LossTable>;

export const LossSettingsShape = z.object({
  coefficients: oneOf(COEFFICIENTS),
  table: LossTableShape.safeExtend({ title: Name, version: z.number().int().min(1) }).optional(),
  counts: z.enum(['mated_pairs', 'connectors']),
  referenceGrade: z.boolean(),
  conditioned: z.boolean(),
  launch: z
    .object({ jacketMm: z.number().min(0.1).max(10), bendInsensitive: z.boolean(), tenGigabit: z.boolean() })
    .optional(),
  budget: z
    .array(
      z.object({
        name: z.string().trim().min(1).max(80),
        shape: z.enum(['rectangular', 'triangular', 'standard']),
        db: z.number().min(0).max(5),
        of: z.literal('drift').optional(),
      }),
    )
    .max(20)
    .nullable(),
}) satisfies z.ZodType<LossSettings>;

/** A link of the class: what lies between two ends, and how it is tested. */
export const ClassLink = z.object({
  id: Id,
  label: Label,
  plan: LinkPlanShape,
  referenceMethod: oneOf(REFERENCE_METHODS),
  settings: LossSettingsShape,
  retired: z.boolean(),
});
export type ClassLink = z.infer<typeof ClassLink>;
export const LinkBody = ClassLink.omit({ id: true });

export const AttemptLinkShape = z.object({
  id: Id,
  label: z.string(),
  plan: LinkPlanShape,
  referenceMethod: oneOf(REFERENCE_METHODS),
  rules: LossRulesShape,
}) satisfies z.ZodType<AttemptLink>;

/** One splice as its sheet has it; null where nothing was entered. Losses in dB, angles in degrees. */
export const SpliceRow = z.object({
  attemptId: Id,
  traineeId: Id,
  traineeName: z.string(),
  pieceLabel: z.string(),
  /** Of a ribbon, counted from 1. */
  fiber: z.number().int().nullable(),
  at: z.string(),
  signed: z.boolean(),
  verdict: z.string(),
  leftDeg: z.number().nullable(),
  rightDeg: z.number().nullable(),
  estimateDb: z.number().nullable(),
  meanDb: z.number().nullable(),
  joint: z.string().nullable(),
  proof: z.boolean().nullable(),
});
export type SpliceRow = z.infer<typeof SpliceRow>;

/** One reading of a link as its signed record has it; dB, null for no light. */
export const LinkTestReading = z.object({
  wavelengthNm: z.number().int(),
  direction: z.string().nullable(),
  fiber: z.number().int().nullable(),
  lossDb: z.number().nullable(),
  limitDb: z.number(),
  mark: z.string(),
});
export type LinkTestReading = z.infer<typeof LinkTestReading>;

/** A signed test of a link of the class; its readings’ expanded uncertainty (k = 2) in dB. */
export const LinkTestOfClass = z.object({
  attemptId: Id,
  traineeName: z.string(),
  pieceLabel: z.string(),
  at: z.string(),
  uncertaintyDb: z.number(),
  readings: z.array(LinkTestReading),
});
export type LinkTestOfClass = z.infer<typeof LinkTestOfClass>;
