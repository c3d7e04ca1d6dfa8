import { piecesAhead } from '@clear-mark/core';
import { describe, expect, it } from 'vitest';
import { aheadWords } from './ahead.ts';

describe('pieces ahead, in words', () => {
  it.each([
    ['PPPPFPPPPF', 'At this rate about 5 more pieces (3 to 15) until 3 pass in a row.'],
    ['FPFPF', 'At this rate about 24 more pieces (5 to over 200) until 3 pass in a row.'],
    ['FFFFFFFFFP', 'At this rate more than 50 pieces until 3 pass in a row: practise the step first.'],
    ['FFF', 'Nothing of the last pieces passed, so nothing can be foretold: practise the step first.'],
    ['FPPP', ''],
    ['', ''],
  ])('%j', (marks, words) => expect(aheadWords(piecesAhead(marks, 3), 3)).toBe(words));
});
