import { faceCriteria, measureFace } from '@clear-mark/core';
import { expect, it } from 'vitest';
import { NOT_FACES, notFace } from './not-faces-for-tests.ts';
import { rngFrom } from './rng.ts';

const PC = faceCriteria('sm-pc')!;

it.each(NOT_FACES)('%s is round in some way and no end face: refused', (kind) => {
  for (const seed of [3, 14]) {
    const found = measureFace(notFace(kind, rngFrom(seed)), PC);
    expect(found.ok ? `graded at ${found.umPerPx}` : 'refused').toBe('refused');
  }
});
