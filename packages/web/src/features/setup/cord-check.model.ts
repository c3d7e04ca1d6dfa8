import { cordCheckState, type CordCheckState } from '@clear-mark/core';
import type { CordCheck } from '@clear-mark/contract';

/** What is wrong with the days of a check; null for good ones. Days like `2026-03-09`. */
export const checkProblem = ({ checkedOn, dueOn }: Pick<CordCheck, 'checkedOn' | 'dueOn'>): string | null =>
  dueOn < checkedOn ? 'It cannot run out before the day it was made on.' : null;

/** Whether a cord may be tested with on a day: its newest check holds, ran out, or failed; or there is none. */
export const cordState = (check: CordCheck | undefined, today: string): CordCheckState | 'unchecked' =>
  check ? cordCheckState(check, today) : 'unchecked';
