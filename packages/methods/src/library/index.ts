import type { MethodSheet } from '@clear-mark/core';
import { ADHESIVE } from './adhesive.ts';
import { CLEAVING } from './cleaving.ts';
import { PREPARATION } from './preparation.ts';
import { PREPOLISHED } from './prepolished.ts';
import { SPLICING } from './splicing.ts';
import { TESTING } from './testing.ts';

/** The shipped methods in the order in which the work runs. */
export const LIBRARY: readonly MethodSheet[] = [
  ...PREPARATION,
  ...CLEAVING,
  ...ADHESIVE,
  ...PREPOLISHED,
  ...SPLICING,
  ...TESTING,
];
