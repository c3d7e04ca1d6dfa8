import { expect, it } from 'vitest';
import { levelOfFace } from './face-level.ts';

it.each([
  ['pass', [], 'clean'],
  ['pass', ['pit'], 'marks-outside'],
  ['fail', ['dust', 'film'], 'dirty'],
  ['fail', ['dust', 'scratch'], 'damaged'],
  ['fail', ['scratch', 'fracture'], 'broken'],
  ['fail', ['edge_chip'], 'broken'],
  ['fail', [], 'damaged'],
] as const)('a face that is graded %s for %j is %s on a sheet', (verdict, faults, level) => {
  expect(levelOfFace(verdict, faults)).toBe(level);
});
