import { LONGEST_SHORT_NAME, shortMethodName } from '@clear-mark/words';
import { expect, it } from 'vitest';
import { SHIPPED_METHODS } from './index.ts';

it('every shipped method has a short name of its own that fits a tile', () => {
  const names = SHIPPED_METHODS.map((m) => shortMethodName(m.id, m.title));
  for (const name of names) expect(name.length, name).toBeLessThanOrEqual(LONGEST_SHORT_NAME);
  expect(new Set(names).size).toBe(names.length);
});

it('a method of the school is called by its title', () => {
  expect(shortMethodName('school/lc-wedge', 'Our wedge')).toBe('Our wedge');
});
