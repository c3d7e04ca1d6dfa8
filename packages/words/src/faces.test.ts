import { FACE_REFUSALS, SLIDE_REFUSALS } from '@clear-mark/core';
import { describe, expect, it } from 'vitest';
import {
  allowedWords,
  breachWords,
  nearLimitWords,
  FACE_REFUSAL_WORDS,
  SLIDE_REFUSAL_WORDS,
} from './faces.ts';

describe('faces in words', () => {
  it.each(FACE_REFUSALS)('refusal %s', (code) => expect(FACE_REFUSAL_WORDS[code]).toMatch(/^[A-Z].*\.$/));
  it.each(SLIDE_REFUSALS)('refusal of a slide %s', (code) =>
    expect(SLIDE_REFUSAL_WORDS[code]).toMatch(/^[A-Z].*: .*\.$/),
  );
  it('the rule that decided', () => {
    const features = [{ sizeUm: 5.2 }, { sizeUm: 3 }, { sizeUm: 7.14 }];
    const say = (indexes: number[], band: { fromUm: number; toUm: number; count: number } | null) =>
      breachWords({ kind: 'defect', features: indexes, band }, features);
    expect(say([0], null)).toBe('a defect of 5.2 µm, which is not allowed');
    expect(say([0, 2], null)).toBe('2 defects that are not allowed, up to 7.1 µm');
    expect(say([0, 1, 2], { fromUm: 2, toUm: 5, count: 2 })).toBe('3 defects of 2 to 5 µm, 2 allowed');
  });
});

it('what is allowed is counted', () => {
  expect(allowedWords(0)).toBe('nothing found');
  expect(allowedWords(3)).toBe('3 found, all allowed');
});

it('a grade that may be the other one is said with its probability and what to do', () => {
  const words = nearLimitWords(0.384);
  expect(words).toContain('chance of a pass is 38 %');
  expect(words).toContain('Look closer');
});
