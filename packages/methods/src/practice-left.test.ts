import { type MethodSheet, practiceLeft, sheetProblems } from '@clear-mark/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { SHIPPED_METHODS } from './index.ts';

const without = (sheet: MethodSheet, gone: ReadonlySet<string>): MethodSheet => ({
  ...sheet,
  steps: sheet.steps.map((s) => ({ ...s, criteria: s.criteria.filter((c) => !gone.has(c.id)) })),
});
const idsOf = (sheet: MethodSheet): string[] => sheet.steps.flatMap((s) => s.criteria.map((c) => c.id));
const practiceProblems = (sheet: MethodSheet): string[] =>
  sheetProblems(sheet).flatMap((p) => (p.code.includes('practice') ? [p.code] : []));

describe('practice options of what is left of a sheet', () => {
  it('name nothing that was removed, whatever was', () => {
    fc.assert(
      fc.property(fc.constantFrom(...SHIPPED_METHODS), fc.infiniteStream(fc.boolean()), (sheet, goes) => {
        const gone = new Set(idsOf(sheet).filter(() => goes.next().value));
        const left = practiceLeft(without(sheet, gone));
        expect(practiceProblems(left)).toEqual([]);
        expect(practiceLeft(left)).toEqual(left);
      }),
    );
  });
  it('would name it otherwise: a copy could lose no criterion', () => {
    const named = SHIPPED_METHODS.filter(
      (sheet) => practiceProblems(without(sheet, new Set(idsOf(sheet)))).length > 0,
    );
    expect(named.length).toBeGreaterThan(10);
  });
  it('stay as they are where nothing was removed', () => {
    for (const sheet of SHIPPED_METHODS) expect(practiceLeft(sheet)).toEqual(sheet);
  });
});
