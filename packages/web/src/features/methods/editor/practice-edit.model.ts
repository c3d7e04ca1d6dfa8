import {
  type Band,
  type Criterion,
  type MethodSheet,
  type PracticeAlternative,
  type PracticeChange,
  type PracticeOption,
} from '@clear-mark/core';
import { VERDICT_WORDS } from '@clear-mark/words';
import { freshId, spliced } from './draft-edit.model.ts';

/** What a lead can let an option of a question change. */
export const CHANGE_KINDS = [
  { value: 'leave_out', label: 'leave a criterion out' },
  { value: 'require', label: 'score it on every piece' },
  { value: 'when_seen', label: 'score it when it is seen' },
  { value: 'band', label: 'other limits' },
] as const;
export type ChangeKind = (typeof CHANGE_KINDS)[number]['value'];

const criteriaOf = (sheet: MethodSheet): Criterion[] => sheet.steps.flatMap((s) => [...s.criteria]);

const freeId = (taken: readonly string[], stem: string): string => {
  let n = 1;
  while (taken.includes(`${stem}-${n}`)) n += 1;
  return `${stem}-${n}`;
};

/** A question with two options, of which the first is the sheet as it is. */
export function newPractice(): PracticeOption {
  return {
    // Classes keep their choices by this id for all methods: no two questions of a school may share one.
    id: `own-${freshId()}`,
    question: '',
    options: [
      { id: 'as-written', label: 'As the sheet is written', changes: [] },
      { id: 'option-1', label: '', changes: [] },
    ],
    default: 'as-written',
    reason: '',
  };
}

export const newAlternative = (practice: PracticeOption): PracticeAlternative => ({
  id: freeId(
    practice.options.map((o) => o.id),
    'option',
  ),
  label: '',
  changes: [],
});

/** A change of this kind on a criterion; of limits it begins with those of the sheet. */
export function changeOf(kind: ChangeKind, criterion: Criterion): PracticeChange | null {
  switch (kind) {
    case 'leave_out':
      return { change: 'leave_out', criterion: criterion.id };
    case 'require':
    case 'when_seen':
      return { change: 'require', criterion: criterion.id, required: kind === 'require' };
    case 'band':
      return 'band' in criterion ? { change: 'band', criterion: criterion.id, band: criterion.band } : null;
    default: {
      const never: never = kind;
      return never;
    }
  }
}

const bandWords = ({ lower, upper }: Band): string =>
  [lower && `from ${lower.value}`, upper && `to ${upper.value}`].filter(Boolean).join(' ');

/** A change in words, so that those that are copied with a shipped method can be read and removed. */
export function changeWords(change: PracticeChange, sheet: MethodSheet): string {
  const label = (id: string): string => criteriaOf(sheet).find((c) => c.id === id)?.label ?? id;
  switch (change.change) {
    case 'leave_out':
      return `leaves out “${label(change.criterion)}”`;
    case 'require':
      return `scores “${label(change.criterion)}” ${change.required ? 'on every piece' : 'when it is seen'}`;
    case 'band':
      return `limits “${label(change.criterion)}” ${bandWords(change.band)}`;
    case 'wavelengths':
      return `reads “${label(change.criterion)}” at ${change.wavelengthsNm.join(' and ')} nm`;
    case 'rules':
      return `changes the allowances of “${label(change.criterion)}”`;
    case 'trunk':
      return `takes a trunk of type ${change.trunk} for “${label(change.criterion)}”`;
    case 'label':
      return `calls “${label(change.criterion)}” “${change.label}”`;
    case 'level':
      return `makes a level of “${label(change.criterion)}” a ${VERDICT_WORDS[change.verdict].toLowerCase()}`;
    case 'how':
      return 'says how a step is done';
    case 'add_step':
      return `adds the step “${change.step.title}”`;
    case 'fiber_class':
      return `is for ${change.fiberClass} fiber`;
    case 'link_fiber':
      return `puts “${label(change.criterion)}” on ${change.fiberClass} fiber`;
    default: {
      const never: never = change;
      return never;
    }
  }
}

const put = (sheet: MethodSheet, schools: readonly PracticeOption[]): MethodSheet => {
  const { schools: _was, ...rest } = sheet;
  return schools.length > 0 ? { ...rest, schools } : rest;
};

export const addPractice = (sheet: MethodSheet): MethodSheet =>
  put(sheet, [...(sheet.schools ?? []), newPractice()]);
export const changePractice = (sheet: MethodSheet, at: number, practice: PracticeOption): MethodSheet =>
  put(sheet, spliced(sheet.schools ?? [], at, 1, practice));
export const removePractice = (sheet: MethodSheet, at: number): MethodSheet =>
  put(sheet, spliced(sheet.schools ?? [], at, 1));
