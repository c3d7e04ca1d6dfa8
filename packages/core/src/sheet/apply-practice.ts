import { DomainError } from '../domain-error.ts';
import type {
  Criterion,
  MethodSheet,
  PracticeOption,
  PracticeChange,
  PracticeChoices,
  Step,
} from './types.ts';

const made = new WeakMap<MethodSheet, Map<string, MethodSheet>>();

/** The option that a sheet is scored by, for one of its practice options. */
export const chosenOption = (practice: PracticeOption, choices: PracticeChoices): string =>
  choices[practice.id] ?? practice.default;

/**
 * The sheet as a class's choices of practice make it. Only options that the sheet has count, so that one set of
 * choices serves all methods of a class; the default of each changes nothing. Steps that are left without a
 * criterion leave the sheet. The same object for the same choices, so that its limits are worked out once.
 * Error: `practice.unknown`. Example: leaving out `not-wiped` where a dry touch is allowed.
 */
export function applyPractice(sheet: MethodSheet, choices: PracticeChoices): MethodSheet {
  const taken = (sheet.schools ?? []).filter((s) => chosenOption(s, choices) !== s.default);
  if (taken.length === 0) return sheet;
  const chosen = Object.fromEntries(taken.map((s) => [s.id, choices[s.id]!]));
  const key = JSON.stringify(chosen);
  const known = made.get(sheet)?.get(key);
  if (known) return known;
  const changes = taken.flatMap((practice) => {
    const option = practice.options.find((o) => o.id === chosen[practice.id]);
    if (!option) {
      throw new DomainError('practice.unknown', { practice: practice.id, given: chosen[practice.id]! });
    }
    return option.changes.map((change) => underChoices(change, chosen));
  });
  const steps = sheet.steps
    .flatMap((step) => [step, ...addedAfter(step.id, changes)])
    .map((step) => changes.reduce(changeStep, step))
    .filter((step) => step.criteria.length > 0);
  const fiber = changes.find((c) => c.change === 'fiber_class');
  const result: MethodSheet = { ...sheet, fiberClass: fiber?.fiberClass ?? sheet.fiberClass, steps, chosen };
  if (!made.has(sheet)) made.set(sheet, new Map());
  made.get(sheet)!.set(key, result);
  return result;
}

/** A change of the fiber with what the other choices make of it; any other change as it is. */
function underChoices(change: PracticeChange, chosen: PracticeChoices): PracticeChange {
  if (change.change !== 'link_fiber' || !change.under) return change;
  return Object.entries(chosen).reduce((made, [practice, option]) => {
    const more = change.under?.[practice]?.[option];
    if (!more) return made;
    return {
      ...made,
      wavelengthsNm: more.wavelengthsNm ?? made.wavelengthsNm,
      rules: { ...made.rules, ...more.rules },
    };
  }, change);
}

/** The steps of a sheet and those that its options can add, each after the one that it follows. */
export const stepsWithOptions = (sheet: MethodSheet): readonly Step[] => {
  const changes = (sheet.schools ?? []).flatMap((s) => s.options.flatMap((o) => o.changes));
  const steps = sheet.steps.flatMap((step) => [step, ...addedAfter(step.id, changes)]);
  // Two options can add the same criterion; its first place counts.
  const first = new Map(steps.flatMap((s, i) => s.criteria.map((c) => [c.id, i] as const)).reverse());
  return steps
    .map((step, i) => ({ ...step, criteria: step.criteria.filter((c) => first.get(c.id) === i) }))
    .filter((step) => step.criteria.length > 0);
};

const addedAfter = (id: string, changes: readonly PracticeChange[]): Step[] =>
  changes.flatMap((c) => (c.change === 'add_step' && c.after === id ? c.step : []));

/** A change of one criterion. */
export type CriterionChange = Extract<PracticeChange, { readonly criterion: string }>;

function changeStep(step: Step, change: PracticeChange): Step {
  if (change.change === 'how') return step.id === change.step ? { ...step, how: change.how } : step;
  if (change.change === 'add_step' || change.change === 'fiber_class') return step;
  if (!step.criteria.some((c) => c.id === change.criterion)) return step;
  const criteria =
    change.change === 'leave_out'
      ? step.criteria.filter((c) => c.id !== change.criterion)
      : step.criteria.map((c) => (c.id === change.criterion ? changeCriterion(c, change) : c));
  return { ...step, criteria };
}

/** A change that does not fit the kind of its criterion is a fault of the method's data: `practice.misfit`. */
export function changeCriterion(
  c: Criterion,
  change: Exclude<CriterionChange, { change: 'leave_out' }>,
): Criterion {
  switch (change.change) {
    case 'require':
      return { ...c, required: change.required };
    case 'label':
      return { ...c, label: change.label };
    case 'level': {
      const { level, verdict, points } = change;
      if (c.kind === 'grade' && c.levels.some((l) => l.id === level)) {
        return { ...c, levels: c.levels.map((l) => (l.id === level ? { ...l, verdict, points } : l)) };
      }
      break;
    }
    case 'band':
      if ('band' in c) return { ...c, band: change.band };
      break;
    case 'wavelengths':
      if (c.kind === 'loss') return { ...c, wavelengthsNm: change.wavelengthsNm };
      break;
    case 'rules':
      if (c.kind === 'loss') return { ...c, rules: { ...c.rules, ...change.rules } };
      break;
    case 'link_fiber': {
      const { fiberClass, wavelengthsNm, rules } = change;
      if (c.kind === 'loss') return { ...c, wavelengthsNm, rules, link: { ...c.link, fiberClass } };
      break;
    }
    case 'trunk':
      if (c.kind === 'map') return { ...c, trunk: change.trunk };
      break;
    default: {
      const never: never = change;
      return never;
    }
  }
  throw new DomainError('practice.misfit', { criterion: c.id, change: change.change });
}
