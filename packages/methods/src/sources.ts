import type { Source } from '@clear-mark/core';

export const commonPractice = (words: string): Source => ({
  kind: 'common_practice',
  fromMemory: false,
  words,
});

export const commonPracticeFromMemory = (words: string): Source => ({
  kind: 'common_practice',
  fromMemory: true,
  words,
});

/** A published standard whose value was written down from memory. */
export const standardFromMemory = (words: string): Source => ({ kind: 'standard', fromMemory: true, words });

export const house = (words: string): Source => ({ kind: 'house', fromMemory: false, words });
