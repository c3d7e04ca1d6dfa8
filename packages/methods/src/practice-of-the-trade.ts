import type { Criterion, LossRules, MethodSheet, PracticeChange } from '@clear-mark/core';
import { atLeast, criteriaOf, step } from './build.ts';
import { MULTIMODE_TABLES, REFERENCE_END, SINGLE_MODE_TABLES } from './loss-rules.ts';
import { commonPractice, house } from './sources.ts';

/** What an option changes on a criterion, by the last part of its id and its kind. */
type Effect = (name: string, criterion: Criterion) => PracticeChange | null;

/** What an option changes on a sheet beside single criteria. */
type SheetEffect = (sheet: MethodSheet) => readonly PracticeChange[];

interface PracticeOfTheTrade {
  readonly id: string;
  readonly question: string;
  readonly options: readonly {
    readonly id: string;
    readonly label: string;
    readonly effect: Effect;
    readonly ofSheet?: SheetEffect;
  }[];
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
    reason:
      'As the method says: two passes for the handle crimp, a dry wipe where primer follows. More does no harm.',
    options: [
      { id: 'method', label: 'As the method says', effect: none },
      { id: 'one', label: 'One alcohol pass', effect: wipes('1', 'one alcohol pass') },
      { id: 'two', label: 'Two alcohol passes', effect: wipes('2', 'two alcohol passes') },
      { id: 'dry', label: 'Dry wipe only, not counted', effect: leaveOut('wipe-passes') },
    ],
  },
  {
    id: 'alcohol',
    question: 'Which alcohol?',
    default: '95',
    reason: '95 % or better is said by most; many insist on 99 % reagent grade.',
    options: [
      { id: '95', label: '95 % or better', effect: none },
      {
        id: '99',
        label: '99 % reagent grade only',
        effect: none,
        ofSheet: (sheet) => addToHow(sheet, 'clean', 'Alcohol of 99 %, reagent grade.'),
      },
    ],
  },
  {
    id: 'integrity-check',
    question: 'How is a stripped fiber tried for nicks?',
    default: 'method',
    reason: 'Each kind has its own: bent at 60 degrees, flicked, swept four ways, or not at all.',
    options: [
      { id: 'method', label: 'As the method says', effect: none },
      { id: 'none', label: 'Not at all', effect: leaveOut('bend-holds', 'bend-check') },
      ...(
        [
          ['flick', 'A flick', 'Flicked, glass held', 'Flicked, so that a nicked fiber breaks now.'],
          [
            '60',
            'Bent at 60 degrees',
            'Bent slightly at 60 degrees, glass held',
            'Bent slightly at 60 degrees.',
          ],
          [
            'four',
            'Swept four ways',
            'Swept 30 degrees four ways, glass held',
            'Swept 30 degrees in four directions.',
          ],
        ] as const
      ).map(([id, label, words, how]) => ({ id, label, effect: none, ofSheet: integrity(words, how) })),
    ],
  },
  {
    id: 'score-place',
    question: 'Where is the fiber scored?',
    default: 'tip',
    reason: 'Near where the glass leaves the tip is said; the top of the bead is from memory.',
    options: [
      { id: 'tip', label: 'Near where the glass leaves the tip', effect: none },
      {
        id: 'bead',
        label: 'At the top of the bead',
        effect: (name, c) =>
          name === 'at-bead' ? { change: 'label', criterion: c.id, label: 'At the top of the bead' } : null,
      },
    ],
  },
  {
    id: 'final-film',
    question: 'Finishing film?',
    default: 'required',
    reason: 'Required for single-mode, recommended for laser-optimised 50 µm.',
    options: [
      { id: 'required', label: 'Required', effect: none },
      {
        id: 'recommended',
        label: 'Recommended: scored where it is seen',
        effect: (name, c) =>
          name === 'finished' ? { change: 'require', criterion: c.id, required: false } : null,
      },
    ],
  },
  {
    id: 'faint-light',
    question: 'Faint light at a window?',
    default: 'marginal',
    reason: 'No light passes and excessive light fails; what lies between is the instructor’s call.',
    options: [
      { id: 'marginal', label: 'Passes, marked marginal', effect: none },
      { id: 'passes', label: 'Passes', effect: levelIs('window-light', 'faint', 'pass', 5) },
      { id: 'fails', label: 'Fails', effect: levelIs('window-light', 'faint', 'fail', 0) },
    ],
  },
  {
    id: 'faint-line',
    question: 'A faint line in the splice image?',
    default: 'marginal',
    reason: 'Some take it for a seam of two glasses, others fire again.',
    options: [
      { id: 'marginal', label: 'Passes, marked marginal', effect: none },
      { id: 'passes', label: 'Passes', effect: levelIs('joint', 'line', 'pass', 6) },
      { id: 'fails', label: 'Fails', effect: levelIs('joint', 'line', 'fail', 0) },
    ],
  },
  {
    id: 'source-kind',
    question: 'What gives the light of a loss test?',
    default: 'instrument',
    reason: 'A test source is steady and of a known launch; a plug-in transceiver is written down as such.',
    options: [
      { id: 'instrument', label: 'A test source', effect: none },
      {
        id: 'transceiver',
        label: 'A plug-in transceiver will do',
        effect: none,
        ofSheet: (sheet) =>
          addToHow(sheet, 'reference', 'A transceiver is the source: write it down with the record.'),
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
    id: 'polish-magnification',
    question: 'At which magnification is a polish judged?',
    default: '400',
    reason: '200 times shows dirt; 400 times shows a fine scratch as well.',
    options: [
      {
        id: '200',
        label: '200 times at least',
        effect: band('polish-magnification', atLeast('200', house('200 times will do for a polish'))),
      },
      { id: '400', label: '400 times at least', effect: none },
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

function levelIs(name: string, level: string, verdict: 'pass' | 'fail', points: number): Effect {
  return (own, c) => (own === name ? { change: 'level', criterion: c.id, level, verdict, points } : null);
}

/** The step's own words with a sentence more. */
function addToHow(sheet: MethodSheet, stepId: string, words: string): readonly PracticeChange[] {
  const found = sheet.steps.find((s) => s.id === stepId);
  return found ? [{ change: 'how', step: stepId, how: `${found.how} ${words}` }] : [];
}

/** Another way to try a stripped fiber, or one where the method has none. */
function integrity(label: string, how: string): SheetEffect {
  return (sheet) => {
    const own = sheet.steps.find((s) => s.criteria.some((c) => isIntegrity(nameOf(c))));
    if (own) {
      const criterion = own.criteria.find((c) => isIntegrity(nameOf(c)))!.id;
      return [
        { change: 'how', step: own.id, how },
        { change: 'label', criterion, label },
      ];
    }
    if (!sheet.steps.some((s) => s.id === 'buffer')) return [];
    const c = criteriaOf(sheet.id.slice(sheet.id.indexOf('/') + 1));
    const check = c.check('bend-holds', label, 3, house('chosen by the class'), 'not_bent glass_broke', {
      critical: true,
    });
    const added = step('integrity', 'Integrity check', 'strip', 'glass', how, [check]);
    return [{ change: 'add_step', after: 'buffer', step: added }];
  };
}
const isIntegrity = (name: string): boolean => name === 'bend-holds' || name === 'bend-check';

function trunk(type: 'B' | 'C'): Effect {
  return (_, c) =>
    c.kind === 'map' && c.id.includes('/mpo-') ? { change: 'trunk', criterion: c.id, trunk: type } : null;
}

function wipes(n: string, words: string): Effect {
  return band('wipe-passes', atLeast(n, commonPractice(words)));
}

/** The last part of a criterion's id, which methods share. */
export const nameOf = (c: Criterion): string => c.id.slice(c.id.lastIndexOf('/') + 1);
