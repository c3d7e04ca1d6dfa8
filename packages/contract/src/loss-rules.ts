import { type LossRules, SOURCE_KINDS } from '@clear-mark/core';
import { z } from 'zod';
import { oneOf } from './common.ts';

/** Strict, as the rest of a method's data: a key that nobody knows would be a limit that nobody keeps. */
export const Words = z.string().min(1).max(2000);
export const Source = z.strictObject({ kind: oneOf(SOURCE_KINDS), fromMemory: z.boolean(), words: Words });
export const Db = z.strictObject({ db: z.number(), source: Source });
const ByWavelength = z.record(z.string(), z.number().min(0));

export const LossRulesShape = z.strictObject({
  connectionDb: Db,
  counts: z.enum(['mated_pairs', 'connectors']).optional(),
  spliceDb: Db,
  referenceEndDb: Db.optional(),
  fiberDbPerKm: z.record(z.string(), Db),
  expectedConnectionDb: Db,
  expectedSpliceDb: Db,
  expectedFiberDbPerKm: ByWavelength,
  floorDbPerKm: ByWavelength,
  negativeToleranceDb: Db,
  driftLimitDb: Db,
  referenceAgeLimitHours: z.number().positive(),
  meterFloorDbm: z.strictObject({ dbm: z.number(), source: Source }).optional(),
  bendStepDb: Db,
  uncertainty: z.array(
    z.strictObject({
      name: Words,
      shape: z.enum(['rectangular', 'triangular', 'standard']),
      db: z.number().min(0),
      of: z.literal('drift').optional(),
    }),
  ),
}) satisfies z.ZodType<LossRules>;
