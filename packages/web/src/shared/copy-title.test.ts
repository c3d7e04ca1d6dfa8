import { describe, expect, it } from 'vitest';
import { copyTitle } from './copy-title.ts';

describe('the title of a copy', () => {
  it.each([
    ['Campus links', 60, 'Campus links, our copy'],
    [
      'Single-mode, flat polish, return loss 45 dB or better',
      60,
      'Single-mode, flat polish, return loss 45 dB or, our copy',
    ],
    ['One, two three', 15, 'One, our copy'],
    ['x'.repeat(80), 20, 'x'.repeat(10) + ', our copy'],
  ])('%s in %i', (title, most, expected) => {
    expect(copyTitle(title, most)).toBe(expected);
    expect(copyTitle(title, most).length).toBeLessThanOrEqual(most);
  });
});
