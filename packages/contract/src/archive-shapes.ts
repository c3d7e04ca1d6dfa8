import { VERDICTS } from '@clear-mark/core';
import { z } from 'zod';
import { Id, MOST_WHOLE, oneOf } from './common.ts';
import { Sha256 } from './faces.ts';

/** An instant with the digits that the database keeps, and its offset. */
export const Moment = z.string().regex(/^20\d\d-\d\d-\d\dT\d\d:\d\d:\d\d(\.\d{1,6})?[+-]\d\d:\d\d$/);
export const Short = z.string().max(200);
export const Long = z.string().max(5000);
export const Whole = z.number().int().min(-MOST_WHOLE).max(MOST_WHOLE);
export const Count = z.number().int().min(0).max(MOST_WHOLE);
export const Num = z.number();
export const Texts = z.array(Short).max(2000);
export const Ids = z.array(Id).max(10_000);
export const Choices = z.record(Short, Short);

export const Points = z.looseObject({ earned: Num, possible: Num });
export const Reasons = z.array(z.looseObject({ code: Short })).max(500);
export const Group = z.looseObject({ verdict: oneOf(VERDICTS), points: Points, reasons: Reasons });
/** What a signed record says, of any scoring version so far. */
export const Outcome = Group.extend({
  scoringVersion: Count,
  skills: z.record(Short, Group),
  steps: z.array(Group.extend({ stepId: Short, skill: Short })).max(500),
  criteria: z
    .array(
      z.looseObject({
        criterionId: Short,
        stepId: Short,
        skill: Short,
        state: Short,
        verdict: oneOf(VERDICTS),
        points: Num,
        earned: Num,
        value: Num.nullable(),
        reasons: Reasons,
        parts: z.array(z.looseObject({})).max(2000),
        entryIds: Texts,
        faults: Texts,
      }),
    )
    .max(2000),
  missing: Texts,
  conflicts: Texts,
});
export const Evidence = z.looseObject({
  references: z.array(z.looseObject({ id: Id, changes: z.array(z.looseObject({ id: Id })) })).max(2000),
  faces: z.array(z.looseObject({ id: Id, sha256: Sha256 })).max(2000),
  pictures: z
    .array(z.looseObject({ id: Id, sha256: Sha256 }))
    .max(2000)
    .optional(),
});

export const table = <S extends z.ZodRawShape>(
  line: string,
  shape: S,
): { line: string; row: z.ZodObject<S> } => ({
  line,
  row: z.strictObject(shape) as unknown as z.ZodObject<S>,
});
