import type { Step } from '@clear-mark/core';
import { between, type Criteria, level, step } from '../build.ts';
import { commonPractice, commonPracticeFromMemory, house } from '../sources.ts';

export const CLEAVE_FACES = [
  level('mirror', 'Mirror', 'pass', 5, 'cleave-mirror'),
  level('mist', 'Mist at the edge', 'marginal_pass', 3, 'cleave-mist'),
  level('lip', 'Lip', 'fail', 0, 'cleave-lip'),
  level('hackle', 'Hackle', 'fail', 0, 'cleave-hackle'),
  level('chip', 'Chip or crack', 'fail', 0, 'cleave-chip'),
];

export interface Cleave {
  readonly lowerMm: string;
  readonly upperMm: string;
  readonly targetMm: string;
  readonly words: string;
  /** Whether the tolerance is said, and not of the house. */
  readonly toleranceSaid?: boolean;
  /** Whether a wipe after the cleave is forbidden in words. */
  readonly wipeSaid?: boolean;
  readonly how?: string;
}

/** The cleaver made ready and the cleave itself. */
export function cleaving(c: Criteria, k: Cleave): Step[] {
  const limit = k.toleranceSaid ? commonPractice(k.words) : house(`0.5 mm either way of ${k.targetMm} mm`);
  return [
    step(
      'cleaver-ready',
      'Cleaver made ready',
      'cleave',
      'bench',
      'Fiber guide left, lock button down, carriage fully back, clamp open. Old end piece to the tape, pads and blade clean; a lifted blade at most 90 degrees.',
      [
        c.check(
          'cleaver-ready',
          'Cleaver clean, carriage back, old offcut out',
          2,
          commonPractice('cleaned before and after use'),
          'carriage_forward offcut_left_in pads_dirty',
          { sampled: true },
        ),
      ],
    ),
    step(
      'cleave',
      'Cleave',
      'cleave',
      'glass',
      k.how ??
        'Buffer edge on the length, fiber straight and level, tip square on the far side; clamp shut. Carriage forward to its lock, fingers off the rising button.',
      [
        c.measure(
          'cleave-length',
          'Cleave length from the buffer edge',
          6,
          'mm',
          between(k.lowerMm, k.upperMm, limit, k.targetMm),
          commonPractice(k.words),
          {
            critical: true,
            hint: 'Too long: the bow starts early and the buffer cannot seat. Too short: no bow, an air gap.',
          },
        ),
        c.check(
          'one-stroke',
          'Single smooth cleave, end face untouched',
          2,
          commonPractice('the carriage moves once, to its stop'),
          'two_strokes face_brushed',
          { sampled: true },
        ),
        c.check(
          'not-wiped',
          'Not wiped after the cleave',
          3,
          k.wipeSaid
            ? commonPractice('wiping leaves debris on the face where it cannot be cleaned well')
            : house('not wiped on any kind; said for the handle crimp only'),
          'wiped_after_cleave',
          { sampled: true },
        ),
        c.check(
          'offcut',
          'Offcut in the container',
          2,
          commonPractice('offcuts are put away at once and counted'),
          'offcut_loose',
          { sampled: true },
        ),
      ],
    ),
  ];
}

/** The cleave looked at. On most kinds nobody looks: there it is added where a class chooses to. */
export const cleaveLook = (c: Criteria, how: string, angleWords = '1 degree', faceSampled = false): Step =>
  step('cleave-look', 'Cleave inspected', 'cleave', 'glass', how, [
    c.measure(
      'cleave-angle',
      'Cleave angle',
      6,
      'deg',
      { upper: { value: '1.0', source: commonPracticeFromMemory(angleWords) }, target: '0' },
      commonPracticeFromMemory('the instructions of the connector in hand go first'),
      {
        critical: true,
        uncertainty: { value: '0.1', source: house('reading the angle off the cleave scope') },
      },
    ),
    c.grade(
      'cleave-face',
      'Face of the cleave',
      5,
      CLEAVE_FACES,
      house('mirror: no hackle, lip, chip, spiral or crack; nobody says a limit'),
      { critical: true, sampled: faceSampled, hint: 'A chip at the rim away from the core is still a chip.' },
    ),
  ]);
