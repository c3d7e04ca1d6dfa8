import { describe, expect, it } from 'vitest';
import { pairPictures } from './index.ts';

describe('pictures before and after cleaning', () => {
  it.each([
    [['LC-07 before.png', 'LC-07 after cleaning.png']],
    [['panel 3_port 2_DIRTY.JPG', 'panel-3-port-2-cleaned.png']],
    [['before (B12).jpeg', 'b12 after.png']],
  ])('%j are of one face', (names) => expect(pairPictures(names)).toEqual([{ before: 0, after: 1 }]));

  it('are paired wherever they stand in the list', () => {
    const names = ['7 after.png', 'readme before.txt', '8 before.png', '7 before.png', '8 after.png'];
    expect(pairPictures(names)).toEqual([
      { before: 3, after: 0 },
      { before: 2, after: 4 },
    ]);
  });

  it.each([
    ['another face', ['7 before.png', '8 after.png']],
    ['a word within a word', ['7 beforehand.png', '7 aftermath.png']],
    ['no face at all', ['before.png', 'after.png']],
    ['both at once', ['7 before after.png', '7 after.png']],
    ['two that could be the one after', ['7 before.png', '7 after.png', '7 cleaned.png']],
    ['no word of when', ['7.png', '8.png']],
  ])('%s is no pair', (_, names) => expect(pairPictures(names)).toEqual([]));
});
