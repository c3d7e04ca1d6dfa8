import { readTyped } from '@clear-mark/core';
import { describe, expect, it } from 'vitest';
import { typedProblem } from './typed.ts';

describe('what is wrong with a typed number', () => {
  const say = (text: string, range: Parameters<typeof readTyped>[1] = {}) =>
    typedProblem(readTyped(text, range), 'a size', 'µm');
  it.each([
    ['3', {}, null],
    ['', {}, 'Give a size: an empty field is none.'],
    ['3 um', {}, '“3 um” is not a size. Digits with one point or comma.'],
    ['2.5', { whole: true }, '“2.5” is not a whole number.'],
    ['-1', { least: 0, most: 9 }, '“-1” is not a size: from 0 to 9 µm.'],
    ['-1', { least: 0 }, '“-1” is not a size: 0 µm or more.'],
    ['10', { most: 9 }, '“10” is not a size: 9 µm or less.'],
  ] as const)('%j in %j', (text, range, words) => expect(say(text, range)).toBe(words));
});
