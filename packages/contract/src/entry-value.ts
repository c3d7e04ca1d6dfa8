import {
  CLEAVE_CLASSES,
  CALLS,
  HAZARDS,
  CAUSES,
  type CordStamp,
  type EntryValue,
  type InstrumentStamp,
  MAX_FIBERS,
  SYMPTOMS,
  UNIT_CODES,
} from '@clear-mark/core';
import { z } from 'zod';
import { Day, DecimalText, Id, Instant, Label, oneOf, SkillShape } from './common.ts';

export const ValueText = z.string().min(1).max(40);
const FaultCode = z.string().regex(/^[a-z0-9_]{1,60}$/);

const Stamp = z.object({
  thingId: Id,
  identity: z.string().max(200),
  wavelengthNm: z.number().int().nullable(),
  calibratedOn: Day.nullable(),
  calibrationDueOn: Day.nullable(),
  at: Instant,
  seq: z.number().int(),
  shows: z.string().max(200).optional(),
  token: z.string().max(100).optional(),
}) satisfies z.ZodType<InstrumentStamp>;

const CordStampShape = z.object({
  thingId: Id,
  label: Label,
  checkedOn: Day,
  dueOn: Day,
  lossDb: DecimalText,
  limitDb: DecimalText,
}) satisfies z.ZodType<CordStamp>;

export const EntryValueShape = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('check'), passed: z.boolean(), faults: z.array(FaultCode).max(12).optional() }),
  z.object({
    kind: z.literal('measure'),
    text: ValueText,
    unit: z.enum(UNIT_CODES),
    slipConfirmed: z.boolean().optional(),
    instrument: Stamp.optional(),
    picture: z.object({ id: Id, expanded: ValueText, face: oneOf(CLEAVE_CLASSES).optional() }).optional(),
  }),
  z.object({ kind: z.literal('count'), count: z.number() }),
  z.object({
    kind: z.literal('timed'),
    text: ValueText.optional(),
    startedAt: Instant.optional(),
    stoppedAt: Instant.optional(),
  }),
  z.object({
    kind: z.literal('grade'),
    level: z.string().min(1).max(60),
    picture: z.object({ id: Id, lossDb: ValueText, expanded: ValueText }).optional(),
  }),
  z.object({
    kind: z.literal('map'),
    far: z.array(z.number().int().nullable()).min(2).max(MAX_FIBERS),
  }),
  z.object({ kind: z.literal('hand') }),
  z.object({ kind: z.literal('stop'), hazard: oneOf(HAZARDS) }),
  z.object({ kind: z.literal('timer'), startedAt: Instant }),
  z.object({ kind: z.literal('call'), said: oneOf(CALLS), reference: oneOf(CALLS).optional() }),
  z.object({
    kind: z.literal('dismiss'),
    symptom: oneOf(SYMPTOMS),
    cause: oneOf(CAUSES),
  }),
  z.object({ kind: z.literal('charge'), skill: SkillShape, cause: z.string().min(1).max(60) }),
  z.object({
    kind: z.literal('loss'),
    text: ValueText.optional(),
    unit: z.enum(UNIT_CODES),
    noLight: z.boolean().optional(),
    referenceId: Id,
    slipConfirmed: z.boolean().optional(),
    instrument: Stamp.optional(),
    cord: CordStampShape.optional(),
  }),
]) satisfies z.ZodType<EntryValue>;
