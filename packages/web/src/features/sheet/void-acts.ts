import type { ReadingVoidReason } from '@clear-mark/core';
import { VOID_WORDS } from '@clear-mark/words';

/** Why a reading may be void, as acts of a menu. */
export const voidActs = Object.entries(VOID_WORDS).map(([value, label]) => ({
  value: value as ReadingVoidReason,
  label,
}));
