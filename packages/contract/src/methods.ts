import type { MethodSheet } from '@clear-mark/core';
import { z } from 'zod';
import { Id } from './common.ts';

export const METHOD_STATES = ['draft', 'in_force', 'retired'] as const;

export const MethodStateBody = z.object({ state: z.enum(['in_force', 'retired']) });

export const MethodVersion = z.object({
  id: Id,
  methodId: z.string(),
  version: z.number().int(),
  state: z.enum(METHOD_STATES),
  sheet: z.custom<MethodSheet>((x) => typeof x === 'object' && x !== null),
});
export type MethodVersion = z.infer<typeof MethodVersion>;
