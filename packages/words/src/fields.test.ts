import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import { fieldProblem } from './fields.ts';

const said = (schema: z.ZodType, value: unknown): string | null => {
  const read = schema.safeParse(value);
  return read.success ? null : fieldProblem(read.error.issues[0]!, value);
};

describe('what is wrong with a field, in words', () => {
  it.each([
    [z.string().trim().min(1), '  ', 'Fill this in.'],
    [z.number(), null, 'Fill this in.'],
    [z.string().min(4), 'abc', 'At least 4 characters.'],
    [z.string().max(3), 'abcd', 'At most 3 characters.'],
    [z.number().min(5), 4, '5 or more.'],
    [z.number().max(60), 61, '60 or less.'],
    [z.number().int(), 1.5, 'A whole number.'],
    [z.number(), 'x', 'A number is needed.'],
    [z.iso.date(), '2026-13-01', 'Choose a day.'],
    [z.string().regex(/^a/, 'it begins with an a'), 'b', 'It begins with an a.'],
    [z.string().refine((t) => t !== 'no', 'no is no answer'), 'no', 'No is no answer.'],
    [z.string(), 'good', null],
  ])('%#', (schema, value, words) => expect(said(schema, value)).toBe(words));
});
