import {
  coverageOf,
  type Coverage,
  type Criterion,
  type CriterionKind,
  type Limit,
  type MethodSheet,
  practiceLeft,
  type Source,
  type Step,
} from '@clear-mark/core';
import { lossRulesFor } from '@clear-mark/methods/loss';
import { sourceOfChanged } from '../../../shared/own-source.ts';

/** What of a draft is worked on: the whole method, a step, or a criterion. */
export type Target =
  | { readonly on: 'method' }
  | { readonly on: 'step'; readonly step: string }
  | { readonly on: 'criterion'; readonly step: string; readonly criterion: string };

export const CRITERION_KIND_WORDS: Readonly<Record<CriterionKind, string>> = {
  check: 'Check, passed or failed',
  measure: 'Measurement',
  count: 'Count',
  timed: 'Time',
  grade: 'Described scale',
  readings: 'Readings of several fibers',
  loss: 'Loss test',
  map: 'Polarity of ports',
  call: 'The trainee’s own call',
};

export const HOUSE: Source = { kind: 'house', fromMemory: false, words: '' };

/** A list with so many taken out at a place, and others put there. */
export function spliced<T>(list: readonly T[], at: number, out: number, ...others: readonly T[]): T[] {
  const next = [...list];
  next.splice(at, out, ...others);
  return next;
}

const replaced = <T extends { readonly id: string }>(list: readonly T[], id: string, by: (of: T) => T): T[] =>
  list.map((one) => (one.id === id ? by(one) : one));

export const changeStep = (sheet: MethodSheet, id: string, by: (step: Step) => Step): MethodSheet => ({
  ...sheet,
  steps: replaced(sheet.steps, id, by),
});

export const changeCriterion = (
  sheet: MethodSheet,
  step: string,
  id: string,
  by: (criterion: Criterion) => Criterion,
): MethodSheet => changeStep(sheet, step, (s) => ({ ...s, criteria: replaced(s.criteria, id, by) }));

/** An id that no version of the method has had: ids last, so one that was removed is not given out again. */
export const freshId = (): string => crypto.randomUUID().slice(0, 8);

export function addStep(sheet: MethodSheet, after: string | null): { sheet: MethodSheet; step: string } {
  const before = sheet.steps.find((s) => s.id === after) ?? sheet.steps[sheet.steps.length - 1];
  const step: Step = {
    id: `step-${freshId()}`,
    title: 'New step',
    skill: before?.skill ?? 'strip',
    place: before?.place ?? 'bench',
    how: '',
    criteria: [],
  };
  const at = before ? sheet.steps.indexOf(before) + 1 : 0;
  return { sheet: { ...sheet, steps: spliced(sheet.steps, at, 0, step) }, step: step.id };
}

export const removeStep = (sheet: MethodSheet, id: string): MethodSheet =>
  practiceLeft({ ...sheet, steps: sheet.steps.filter((s) => s.id !== id) });

/** A criterion of a kind as it begins: what has no sensible beginning is left empty, and told as missing. */
export function newCriterion(kind: CriterionKind, sheet: MethodSheet): Criterion {
  const base = {
    id: `${sheet.id}/${kind}-${freshId()}`,
    label: '',
    points: 5,
    critical: false,
    required: true,
    source: HOUSE,
  };
  switch (kind) {
    case 'check':
      return { ...base, kind };
    case 'call':
      return { ...base, kind, faults: ['called_bad_good', 'called_good_bad'] };
    case 'measure':
      return { ...base, kind, unit: 'mm', band: {} };
    case 'readings':
      return { ...base, kind, unit: 'dB', band: {}, fibers: 12 };
    case 'count':
      return { ...base, kind, noun: 'pieces', band: {} };
    case 'timed':
      return { ...base, kind, band: {} };
    case 'grade':
      return {
        ...base,
        kind,
        levels: [
          { id: 'good', label: 'Good', verdict: 'pass', points: 5 },
          { id: 'bad', label: 'Bad', verdict: 'fail', points: 0 },
        ],
      };
    case 'map':
      return { ...base, kind, ports: 12, trunk: 'B' };
    case 'loss':
      return {
        ...base,
        kind,
        wavelengthsNm: /^OS/.test(sheet.fiberClass) ? [1310, 1550] : [850, 1300],
        link: {
          fiberClass: sheet.fiberClass,
          lengthM: 0,
          matedPairs: 1,
          splices: 0,
          referenceMethod: 'one_cord',
        },
        rules: lossRulesFor(sheet.fiberClass, 'one_cord'),
      };
    default: {
      const never: never = kind;
      return never;
    }
  }
}

export function addCriterion(
  sheet: MethodSheet,
  step: string,
  kind: CriterionKind,
  after: string | null,
): { sheet: MethodSheet; criterion: string } {
  const made = newCriterion(kind, sheet);
  const next = changeStep(sheet, step, (s) => {
    const at = s.criteria.findIndex((c) => c.id === after);
    return { ...s, criteria: spliced(s.criteria, at < 0 ? s.criteria.length : at + 1, 0, made) };
  });
  return { sheet: next, criterion: made.id };
}

export const removeCriterion = (sheet: MethodSheet, step: string, id: string): MethodSheet =>
  practiceLeft(changeStep(sheet, step, (s) => ({ ...s, criteria: s.criteria.filter((c) => c.id !== id) })));

function moved<T>(list: readonly T[], from: number, to: number): T[] {
  const one = list[from];
  return one === undefined ? [...list] : spliced(spliced(list, from, 1), to, 0, one);
}

export const moveStep = (sheet: MethodSheet, from: number, to: number): MethodSheet => ({
  ...sheet,
  steps: moved(sheet.steps, from, to),
});

export interface CriterionPlace {
  readonly step: string;
  readonly at: number;
}
/** Within its step, or to another one. */
export function moveCriterion(sheet: MethodSheet, from: CriterionPlace, to: CriterionPlace): MethodSheet {
  if (from.step === to.step) {
    return changeStep(sheet, from.step, (s) => ({ ...s, criteria: moved(s.criteria, from.at, to.at) }));
  }
  const one = sheet.steps.find((s) => s.id === from.step)?.criteria[from.at];
  if (!one) return sheet;
  const without = changeStep(sheet, from.step, (s) => ({ ...s, criteria: spliced(s.criteria, from.at, 1) }));
  return changeStep(without, to.step, (s) => ({ ...s, criteria: spliced(s.criteria, to.at, 0, one) }));
}

/** One place up or down for what is chosen; a criterion at the end of its step goes on to the next one. */
export function moveBy(
  sheet: MethodSheet,
  target: Target,
  by: 1 | -1,
): { sheet: MethodSheet; target: Target } {
  if (target.on === 'method') return { sheet, target };
  const at = sheet.steps.findIndex((s) => s.id === target.step);
  const step = sheet.steps[at];
  if (!step) return { sheet, target };
  if (target.on === 'step') {
    const to = at + by;
    return to < 0 || to >= sheet.steps.length
      ? { sheet, target }
      : { sheet: moveStep(sheet, at, to), target };
  }
  const from = step.criteria.findIndex((c) => c.id === target.criterion);
  const to = from + by;
  if (to >= 0 && to < step.criteria.length) {
    const place = { step: step.id, at: to };
    return { sheet: moveCriterion(sheet, { step: step.id, at: from }, place), target };
  }
  const beside = sheet.steps[at + by];
  if (!beside) return { sheet, target };
  const place = { step: beside.id, at: by > 0 ? 0 : beside.criteria.length };
  return {
    sheet: moveCriterion(sheet, { step: step.id, at: from }, place),
    target: { ...target, step: beside.id },
  };
}

/** Where something is worked on after it was removed, undone or changed elsewhere: itself, its step, or the method. */
export function heldTarget(sheet: MethodSheet, target: Target): Target {
  if (target.on === 'method') return target;
  if (target.on === 'criterion') {
    const home = sheet.steps.find((s) => s.criteria.some((c) => c.id === target.criterion));
    if (home) return home.id === target.step ? target : { ...target, step: home.id };
  }
  return sheet.steps.some((s) => s.id === target.step) ? { on: 'step', step: target.step } : { on: 'method' };
}

/** Required of every piece, scored when it is seen, or entered by the trainee. */
export function withCoverage<C extends Criterion>(criterion: C, coverage: Coverage): C {
  const { acceptsTrainee: _was, ...rest } = criterion;
  return {
    ...(rest as C),
    required: coverage === 'required',
    ...(coverage === 'trainee' ? { acceptsTrainee: true } : {}),
  };
}
export { coverageOf };

/** A limit with another value; none where the field was emptied. A decimal comma is a point. */
export function limitOf(was: Limit | undefined, text: string, source: Source): Limit | undefined {
  const value = text.trim().replace(',', '.');
  if (value === '') return undefined;
  if (!was) return { value, source };
  return value === was.value ? was : { ...was, value, source: sourceOfChanged(was.source) };
}

/** A key that is left out where there is nothing to say. */
export function put<T extends object, K extends string>(on: T, key: K, value: unknown): T {
  const { [key]: _was, ...rest } = on as Record<string, unknown>;
  const empty = value === undefined || value === '' || (Array.isArray(value) && value.length === 0);
  return (empty ? rest : { ...rest, [key]: value }) as T;
}
