import {
  CRITERION_KINDS,
  emptySheet,
  type MethodSheet,
  readyProblems,
  sheetProblems,
} from '@clear-mark/core';
import { LC_WEDGE_LOCATOR } from '@clear-mark/methods';
import { describe, expect, it } from 'vitest';
import {
  addCriterion,
  addStep,
  coverageOf,
  heldTarget,
  limitOf,
  moveBy,
  moveCriterion,
  moveStep,
  newCriterion,
  put,
  removeCriterion,
  removeStep,
  type Target,
  withCoverage,
} from './draft-edit.model.ts';

import { OWN_SOURCE } from '../../../shared/own-source.ts';

const sheet = LC_WEDGE_LOCATOR;
const stepIds = (of: MethodSheet): string[] => of.steps.map((s) => s.id);
const criterionIds = (of: MethodSheet): string[][] => of.steps.map((s) => s.criteria.map((c) => c.id));
const source = { kind: 'house', fromMemory: false, words: 'x' } as const;

describe('steps and criteria of a draft', () => {
  it('a step comes after the one that is worked on, with its skill', () => {
    const made = addStep(sheet, sheet.steps[1]!.id);
    expect(stepIds(made.sheet).indexOf(made.step)).toBe(2);
    expect(made.sheet.steps[2]!.skill).toBe(sheet.steps[1]!.skill);
    expect(stepIds(removeStep(made.sheet, made.step))).toEqual(stepIds(sheet));
  });

  it('a criterion comes after the one that is worked on, else at the end; ids are never given out twice', () => {
    const home = sheet.steps.find((s) => s.criteria.length > 1)!;
    const first = addCriterion(sheet, home.id, 'check', home.criteria[0]!.id);
    const at = first.sheet.steps.find((s) => s.id === home.id)!.criteria;
    expect(at[1]!.id).toBe(first.criterion);
    const last = addCriterion(sheet, home.id, 'check', null);
    expect(last.sheet.steps.find((s) => s.id === home.id)!.criteria.at(-1)!.id).toBe(last.criterion);
    expect(first.criterion).not.toBe(last.criterion);
    expect(criterionIds(removeCriterion(first.sheet, home.id, first.criterion))).toEqual(criterionIds(sheet));
  });

  it.each(CRITERION_KINDS)('a new %s lacks nothing but what only its author knows', (kind) => {
    const empty = emptySheet('own/x', 'X');
    const made = newCriterion(kind, empty);
    const of: MethodSheet = {
      ...empty,
      summary: 'x',
      steps: [
        {
          ...empty.steps[0]!,
          criteria: [
            {
              ...made,
              label: 'x',
              source,
              ...('band' in made ? { band: { upper: { value: '1', source } } } : {}),
            } as never,
          ],
        },
      ],
    };
    expect(readyProblems(of).filter((p) => p.blocks)).toEqual([]);
  });

  it('moves within its step, to another one, and back', () => {
    const [a, b] = sheet.steps;
    const moved = moveCriterion(sheet, { step: a!.id, at: 0 }, { step: b!.id, at: 1 });
    expect(criterionIds(moved)[1]![1]).toBe(a!.criteria[0]!.id);
    expect(moveCriterion(moved, { step: b!.id, at: 1 }, { step: a!.id, at: 0 })).toEqual(sheet);
    expect(moveStep(moveStep(sheet, 0, 3), 3, 0)).toEqual(sheet);
    expect(moveCriterion(sheet, { step: a!.id, at: 99 }, { step: b!.id, at: 0 })).toBe(sheet);
  });

  it('one place at a time goes through every step and stops at both ends', () => {
    const id = sheet.steps[0]!.criteria[0]!.id;
    let at: { sheet: MethodSheet; target: Target } = {
      sheet,
      target: { on: 'criterion', step: sheet.steps[0]!.id, criterion: id },
    };
    expect(moveBy(at.sheet, at.target, -1).sheet).toBe(sheet);
    for (let i = 0; i < 200; i++) at = moveBy(at.sheet, at.target, 1);
    expect(at.sheet.steps.at(-1)!.criteria.at(-1)!.id).toBe(id);
    expect(at.target).toMatchObject({ step: sheet.steps.at(-1)!.id });
    expect(sheetProblems(at.sheet)).toEqual([]);
    for (let i = 0; i < 200; i++) at = moveBy(at.sheet, at.target, -1);
    expect(at.sheet).toEqual(sheet);
    const step: Target = { on: 'step', step: sheet.steps[0]!.id };
    expect(stepIds(moveBy(sheet, step, 1).sheet).indexOf(step.step)).toBe(1);
    expect(moveBy(sheet, step, -1).sheet).toBe(sheet);
  });

  it('what was worked on and is gone gives way to its step, and that to the method', () => {
    const [a, b] = sheet.steps;
    const target: Target = { on: 'criterion', step: a!.id, criterion: a!.criteria[0]!.id };
    expect(heldTarget(sheet, target)).toBe(target);
    expect(heldTarget(removeCriterion(sheet, a!.id, target.criterion), target)).toEqual({
      on: 'step',
      step: a!.id,
    });
    expect(heldTarget(removeStep(sheet, a!.id), target)).toEqual({ on: 'method' });
    const moved = moveCriterion(sheet, { step: a!.id, at: 0 }, { step: b!.id, at: 0 });
    expect(heldTarget(moved, target)).toEqual({ ...target, step: b!.id });
  });
});

describe('single figures', () => {
  it('a limit is read with a comma, and gone when its field is empty', () => {
    expect(limitOf(undefined, ' 12,5 ', source)).toEqual({ value: '12.5', source });
    const was = { value: '1', exclusive: true, source: { ...source, words: 'own' } };
    expect(limitOf(was, '2', source)).toEqual({ ...was, value: '2' });
    expect(limitOf(was, ' ', source)).toBeUndefined();
    const standard = {
      value: '0.75',
      source: { kind: 'standard', fromMemory: true, words: 'a table' },
    } as const;
    expect(limitOf(standard, '0.75', source)).toEqual(standard);
    // The table does not say 0.5: the school does.
    expect(limitOf(standard, '0.5', source)).toEqual({ value: '0.5', source: OWN_SOURCE });
  });
  it('a key with nothing to say is left out', () => {
    expect(put({ a: 1, b: 2 }, 'b', '')).toEqual({ a: 1 });
    expect(put({ a: 1 }, 'b', [])).toEqual({ a: 1 });
    expect(put({ a: 1 }, 'b', 0)).toEqual({ a: 1, b: 0 });
  });
  it('each way of scoring is the one that it is read as', () => {
    const c = newCriterion('check', sheet);
    for (const way of ['required', 'sampled', 'trainee'] as const) {
      expect(coverageOf(withCoverage(withCoverage(c, 'trainee'), way))).toBe(way);
    }
    expect('acceptsTrainee' in withCoverage(withCoverage(c, 'trainee'), 'required')).toBe(false);
  });
});
