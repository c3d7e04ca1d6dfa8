import type { Criterion, LossRules, MethodSheet, PracticeOption, PracticeChange } from '@clear-mark/core';
import { atLeast, between } from './build.ts';
import { MULTIMODE_TABLES, REFERENCE_END, SINGLE_MODE_TABLES } from './loss-rules.ts';
import { commonPractice, house } from './sources.ts';

/** What an option changes on a criterion, by the last part of its id and its kind. */
type Effect = (name: string, criterion: Criterion) => PracticeChange | null;

interface PracticeOfTheTrade {
  readonly id: string;
  readonly question: string;
  readonly options: readonly { readonly id: string; readonly label: string; readonly effect: Effect }[];
  readonly default: string;
  readonly reason: string;
}

const none: Effect = () => null;
const leaveOut =
  (...names: string[]): Effect =>
  (name, c) =>
    names.includes(name) ? { change: 'leave_out', criterion: c.id } : null;
const band =
  (wanted: string, made: Extract<PracticeChange, { change: 'band' }>['band']): Effect =>
  (name, c) =>
    name === wanted ? { change: 'band', criterion: c.id, band: made } : null;
const rules =
  (of: (c: Criterion & { kind: 'loss' }) => Partial<LossRules> | null): Effect =>
  (_, c) => {
    const made = c.kind === 'loss' ? of(c) : null;
    return made ? { change: 'rules', criterion: c.id, rules: made } : null;
  };

const isMultimode = (c: Criterion & { kind: 'loss' }): boolean => c.link.fiberClass.startsWith('OM');

/**
 * The questions on which practitioners disagree and that change what a sheet asks or allows. Each ships with a
 * default; a class chooses another in its settings. Source of every answer: common practice, unless it says more.
 */
export const PRACTICE_OPTIONS: readonly PracticeOfTheTrade[] = [
  {
    id: 'loss-allowance',
    question: 'What does the connection allowance count?',
    default: 'pairs',
    reason: 'A mated pair inside the measured span is what the light crosses.',
    options: [
      { id: 'pairs', label: 'Mated pairs inside the span', effect: none },
      { id: 'connectors', label: 'Each connector', effect: rules(() => ({ counts: 'connectors' })) },
    ],
  },
  {
    id: 'fiber-coefficient',
    question: 'Which fiber coefficient makes the limit?',
    default: 'today',
    reason: 'Today’s table for inside plant, since the class works in a lab.',
    options: [
      { id: 'today', label: 'Today’s table, inside plant', effect: none },
      {
        id: 'older',
        label: 'Older table: 3.5 and 1.5 dB/km multimode',
        effect: rules((c) => (isMultimode(c) ? { fiberDbPerKm: MULTIMODE_TABLES.older! } : null)),
      },
      {
        id: 'outside',
        label: 'Outside plant: 0.5 dB/km single-mode',
        effect: rules((c) => (isMultimode(c) ? null : { fiberDbPerKm: SINGLE_MODE_TABLES.outside! })),
      },
      {
        id: 'maker',
        label: 'Today’s fiber: 0.35 and 0.22 dB/km single-mode',
        effect: rules((c) => (isMultimode(c) ? null : { fiberDbPerKm: SINGLE_MODE_TABLES.maker! })),
      },
    ],
  },
  {
    id: 'reference-cords',
    question: 'Which cords for the reference?',
    default: 'any',
    reason: 'Zeroing removes the cord’s own loss; any cord that passed today’s check will do.',
    options: [
      { id: 'any', label: 'Any cord that passed today’s check', effect: none },
      {
        id: 'reference-grade',
        label: 'Reference grade only',
        effect: rules((c) => ({
          uncertainty: c.rules.uncertainty.map((part) =>
            part.name.startsWith('mating')
              ? { name: 'mating a reference-grade cord again', shape: 'rectangular', db: 0.05 }
              : part,
          ),
          // For each end inside the span that is mated to such a cord.
          ...(isMultimode(c) ? { referenceEndDb: REFERENCE_END.multimode } : {}),
        })),
      },
    ],
  },
  {
    id: 'wavelengths',
    question: 'How many wavelengths?',
    default: 'two',
    reason: 'Bends show at the longer one. One where the class’s kit has one.',
    options: [
      { id: 'two', label: 'Both', effect: none },
      {
        id: 'one',
        label: 'The shorter one only',
        effect: (_, c) =>
          c.kind === 'loss' && c.wavelengthsNm.length > 1
            ? { change: 'wavelengths', criterion: c.id, wavelengthsNm: [Math.min(...c.wavelengthsNm)] }
            : null,
      },
      {
        id: 'long',
        label: 'The longer one only',
        effect: (_, c) =>
          c.kind === 'loss' && c.wavelengthsNm.length > 1
            ? { change: 'wavelengths', criterion: c.id, wavelengthsNm: [Math.max(...c.wavelengthsNm)] }
            : null,
      },
    ],
  },
  {
    id: 'trunk',
    question: 'Which trunk is in the class’s kit?',
    default: 'A',
    reason: 'Straight through is the one whose map reads itself; set what the kit has.',
    options: [
      { id: 'A', label: 'Type A, straight through', effect: none },
      { id: 'B', label: 'Type B, reversed', effect: trunk('B') },
      { id: 'C', label: 'Type C, pairs crossed', effect: trunk('C') },
    ],
  },
  {
    id: 'wipe-after-cleave',
    question: 'Wipe after cleaving?',
    default: 'never',
    reason: 'The cleaved face touches nothing.',
    options: [
      { id: 'never', label: 'Never', effect: none },
      { id: 'dry', label: 'A light dry touch is allowed', effect: leaveOut('not-wiped') },
    ],
  },
  {
    id: 'buffer-sections',
    question: 'Buffer off in sections or in one piece?',
    default: 'sections',
    reason: 'In bites the glass does not break; some buffers do come off whole.',
    options: [
      { id: 'sections', label: 'In sections', effect: none },
      { id: 'whole', label: 'As it comes, bites not counted', effect: leaveOut('bites') },
    ],
  },
  {
    id: 'wipes-after-strip',
    question: 'Wipes after stripping?',
    default: 'method',
    reason: 'One or two, as the method says: more passes only bring more touch.',
    options: [
      { id: 'method', label: 'As the method says', effect: none },
      { id: 'one', label: 'One alcohol pass', effect: wipes('1', 'one alcohol pass') },
      { id: 'two', label: 'Two alcohol passes', effect: wipes('2', 'two alcohol passes') },
      { id: 'dry', label: 'Dry wipe only, not counted', effect: leaveOut('wipe-passes') },
    ],
  },
  {
    id: 'inspect-cleaves',
    question: 'Inspect every cleave?',
    default: 'scope',
    reason: 'Under the scope in training: it is where the hand learns.',
    options: [
      { id: 'scope', label: 'Angle and face', effect: none },
      { id: 'angle', label: 'Angle on the splicer’s screen', effect: leaveOut('cleave-face', 'worst-face') },
      {
        id: 'result',
        label: 'The result only',
        effect: leaveOut('cleave-face', 'worst-face', 'cleave-angle', 'worst-angle'),
      },
    ],
  },
  {
    id: 'clean-or-look',
    question: 'Clean, then connect, or inspect first?',
    default: 'look',
    reason: 'An unneeded clean can dirty a clean face.',
    options: [
      { id: 'look', label: 'Inspect first', effect: none },
      { id: 'clean', label: 'Cleaning without a look is allowed', effect: leaveOut('looked-first') },
    ],
  },
  {
    id: 'magnification',
    question: 'Which magnification?',
    default: '200',
    reason: '200 times at least; 400 to grade a polish.',
    options: [
      {
        id: '100',
        label: '100 times',
        effect: band('magnification', atLeast('100', house('100 times will do'))),
      },
      { id: '200', label: '200 times at least', effect: none },
      {
        id: '400',
        label: '400 times',
        effect: band('magnification', atLeast('400', commonPractice('400 times shows it all'))),
      },
    ],
  },
  {
    id: 'splice-strength',
    question: 'Splice strength: proof-tested or assumed?',
    default: 'tested',
    reason: 'The pull is over in a second and finds what no picture shows.',
    options: [
      { id: 'tested', label: 'Proof-tested', effect: none },
      { id: 'assumed', label: 'Assumed', effect: leaveOut('proof') },
    ],
  },
];

function trunk(type: 'B' | 'C'): Effect {
  return (_, c) =>
    c.kind === 'map' && c.id.includes('/mpo-') ? { change: 'trunk', criterion: c.id, trunk: type } : null;
}

function wipes(n: string, words: string): Effect {
  return band('wipe-passes', between(n, n, commonPractice(words)));
}

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
  { question: 'Alcohol of 95 or 99 percent?', answer: '99, and 95 is accepted: noted, not failed.' },
  { question: 'Integrity check of a stripped fiber', answer: 'By method; cleaning comes last.' },
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
    question: 'Final polish for multimode',
    answer: 'On the polishing sheets: asked for, since single-mode needs it.',
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
  {
    question: 'Is a transceiver a source?',
    answer: 'Instruments; a transceiver is recorded as the instrument used.',
  },
  { question: 'Clean a factory face after terminating?', answer: 'The inspection decides.' },
  {
    question: 'Where are the pins?',
    answer: 'Documented with the link: the inspection asks for pins and key.',
  },
];

const nameOf = (c: Criterion): string => c.id.slice(c.id.lastIndexOf('/') + 1);

/** The sheet with the practice options that change something on it. */
export function withPractice(sheet: MethodSheet): MethodSheet {
  const criteria = sheet.steps.flatMap((s) => s.criteria);
  const schools: PracticeOption[] = PRACTICE_OPTIONS.map(({ options, ...practice }) => ({
    ...practice,
    options: options.map(({ effect, ...option }) => ({
      ...option,
      changes: criteria.flatMap((c) => effect(nameOf(c), c) ?? []),
    })),
  })).filter((practice) => practice.options.some((o) => o.changes.length > 0));
  return schools.length > 0 ? { ...sheet, schools } : sheet;
}
