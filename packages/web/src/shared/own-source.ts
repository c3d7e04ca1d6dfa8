import type { Source } from '@clear-mark/core';

export const OWN_SOURCE: Source = { kind: 'house', fromMemory: false, words: 'set by the school' };

/** The source of a figure that was changed: a standard or the practice of the trade does not say the new one, the school does. */
export const sourceOfChanged = (was: Source): Source => (was.kind === 'house' ? was : OWN_SOURCE);
