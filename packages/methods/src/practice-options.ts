import {
  coverageOf,
  type FiberClass,
  type FiberUnderPractice,
  type LossCriterion,
  type MethodSheet,
  type PracticeChange,
  type PracticeOption,
  type Step,
  wavelengthsOf,
} from '@clear-mark/core';
import { lossRulesFor } from './loss-rules.ts';
import { nameOf, PRACTICE_OPTIONS } from './practice-of-the-trade.ts';

/** What the trade disagrees on and a sheet does not turn by a switch: where it is decided, and why. */
export const DECIDED_ELSEWHERE: readonly { readonly question: string; readonly answer: string }[] = [
  {
    question: 'Which reference method?',
    answer:
      'A method for each: one cord first, since it is the least uncertain. Limit and uncertainty follow it.',
  },
  { question: 'How is competence shown?', answer: 'In the class’s policy: so many good pieces in a row.' },
  {
    question: 'Does a marginal reading pass?',
    answer: 'In the class’s policy: it passes, marked marginal; the strict rule is there to choose.',
  },
  {
    question: 'Who decides an end face?',
    answer: 'The instructor’s eye, on the described scale of the sheet.',
  },
  { question: 'Front cap while terminating', answer: 'By method: some locators need it off.' },
  {
    question: 'Proof of a mechanical joint',
    answer: 'By method (bow and mark, glow, window, light); the loss decides.',
  },
  {
    question: 'Mandrel or mode-controlled cord?',
    answer: 'Either, on multimode; the named standard says which.',
  },
  {
    question: 'Films: two, or hand polish and three?',
    answer: 'By kit; each polishing sheet names its own.',
  },
  { question: 'When does the boot go on?', answer: 'By method: before polishing, at the end, or fixed.' },
  { question: 'One crimp or two?', answer: 'By connector.' },
  {
    question: 'Where does the limit come from?',
    answer: 'It is computed for the link of the sheet, always.',
  },
  { question: 'Clean a factory face after terminating?', answer: 'The inspection decides.' },
  {
    question: 'Where are the pins?',
    answer: 'Documented with the link: the inspection asks for pins and key.',
  },
];

/** How much of a sheet is scored: all of it, what decides and what is seen, or what decides alone. */
function depth(sheet: MethodSheet): PracticeOption {
  const criteria = sheet.steps.flatMap((s) => s.criteria);
  const rest = criteria.filter((c) => coverageOf(c) !== 'required');
  const needed = new Set(criteria.flatMap((c) => (c.kind === 'loss' ? (c.conditionedBy ?? []) : [])));
  return {
    id: 'depth',
    question: 'How deep is a piece scored?',
    default: 'working',
    reason: 'What decides is scored on every piece; the rest when it is seen, or by the trainee.',
    options: [
      {
        id: 'full',
        label: 'Full: every criterion on every piece',
        changes: rest
          .filter((c) => coverageOf(c) === 'sampled' && c.kind !== 'readings')
          .map((c) => ({ change: 'require', criterion: c.id, required: true })),
      },
      { id: 'working', label: 'Working: what decides; the rest when it is seen', changes: [] },
      {
        id: 'quick',
        label: 'Quick check: what decides alone',
        changes: rest.filter((c) => !needed.has(c.id)).map((c) => ({ change: 'leave_out', criterion: c.id })),
      },
    ],
  };
}

/** A loss on another fiber, and what each choice of the trade makes of it there. */
function onFiber(c: LossCriterion, fiberClass: FiberClass): PracticeChange {
  const wavelengthsNm = wavelengthsOf(fiberClass);
  const rules = lossRulesFor(fiberClass, 'single_cord');
  const there: LossCriterion = { ...c, wavelengthsNm, rules, link: { ...c.link, fiberClass } };
  const under: Record<string, Record<string, FiberUnderPractice>> = {};
  for (const { id, options } of PRACTICE_OPTIONS) {
    for (const option of options) {
      const change = option.effect(nameOf(there), there);
      if (change?.change === 'rules') (under[id] ??= {})[option.id] = { rules: change.rules };
      if (change?.change === 'wavelengths') {
        (under[id] ??= {})[option.id] = { wavelengthsNm: change.wavelengthsNm };
      }
    }
  }
  return { change: 'link_fiber', criterion: c.id, fiberClass, wavelengthsNm, rules, under };
}

/** The fiber that a connector is put on: what it may lose, and at which wavelengths. */
function fiberOf(sheet: MethodSheet): PracticeOption {
  const losses = sheet.steps
    .flatMap((s) => s.criteria)
    .filter((c): c is LossCriterion => c.kind === 'loss' && c.link.referenceMethod === 'single_cord');
  const on = (fiberClass: FiberClass): PracticeChange[] =>
    losses.length === 0
      ? []
      : [
          { change: 'fiber_class', fiberClass },
          ...losses.map((c) => onFiber(c, fiberClass)),
          ...sheet.steps
            .flatMap((s) => s.criteria)
            .filter((c) => nameOf(c) === 'finished')
            .map((c): PracticeChange => ({ change: 'require', criterion: c.id, required: false })),
        ];
  return {
    id: 'fiber',
    question: 'Which fiber do terminations go on?',
    default: 'single-mode',
    reason: 'Single-mode asks most. Wavelengths, limit and zone table follow the fiber.',
    options: [
      { id: 'single-mode', label: 'Single-mode', changes: [] },
      { id: '50', label: '50 µm multimode (OM3)', changes: on('OM3') },
      { id: '62', label: '62.5 µm multimode (OM1)', changes: on('OM1') },
    ],
  };
}

/** How a cleave is judged. Where nobody looks by this kind, the look is what a class may add. */
function cleaveJudged(sheet: MethodSheet, look: Step | null): PracticeOption {
  const criteria = sheet.steps.flatMap((s) => s.criteria);
  const without = (...names: string[]): PracticeChange[] =>
    criteria.filter((c) => names.includes(nameOf(c))).map((c) => ({ change: 'leave_out', criterion: c.id }));
  const added = (names: readonly string[]): PracticeChange[] =>
    look === null
      ? []
      : [
          {
            change: 'add_step',
            after: 'cleave',
            step: { ...look, criteria: look.criteria.filter((c) => names.includes(nameOf(c))) },
          },
        ];
  return {
    id: 'inspect-cleaves',
    question: 'How is a cleave judged?',
    default: look === null ? 'scope' : 'result',
    reason:
      look === null
        ? 'By this kind the cleave is looked at.'
        : 'By this kind nobody looks at the cleave: the bow and the loss tell. A class in training may look.',
    options: [
      { id: 'scope', label: 'Angle and face', changes: added(['cleave-angle', 'cleave-face']) },
      {
        id: 'face',
        label: 'Face only',
        changes: [...added(['cleave-face']), ...without('cleave-angle', 'worst-angle')],
      },
      {
        id: 'result',
        label: 'The result only',
        changes: without('cleave-face', 'worst-face', 'gap-picture', 'cleave-angle', 'worst-angle'),
      },
    ],
  };
}

/** The sheet with the practice options that change something on it. `look` is what a class may add after the cleave. */
export function withPractice(sheet: MethodSheet, look: Step | null = null): MethodSheet {
  const criteria = sheet.steps.flatMap((s) => s.criteria);
  const ofTheTrade: PracticeOption[] = PRACTICE_OPTIONS.map(({ options, ...practice }) => ({
    ...practice,
    options: options.map(({ effect, ofSheet, ...option }) => ({
      ...option,
      changes: [...criteria.flatMap((c) => effect(nameOf(c), c) ?? []), ...(ofSheet?.(sheet) ?? [])],
    })),
  }));
  // The fiber last: it carries what the other choices make of a loss on it.
  const schools = [depth(sheet), cleaveJudged(sheet, look), ...ofTheTrade, fiberOf(sheet)].filter(
    (practice) => practice.options.some((o) => o.changes.length > 0),
  );
  return schools.length > 0 ? { ...sheet, schools } : sheet;
}
