import type { Step } from '@clear-mark/core';
import { atLeast, atMost, between, step, type Criteria } from '../build.ts';
import { BLADES, CHEMICALS, DEFER, GLASS, LIGHT } from '../common/cautions.ts';
import { commonPractice } from '../sources.ts';

export const scribing = (c: Criteria): Step =>
  step(
    'scribe',
    'Scribed and pulled',
    'cleave',
    'connector',
    'One light stroke at the top of the bead, bevel up; a straight pull, no twist. Adhesive off the blade before it dries.',
    [
      c.check(
        'one-light-stroke',
        'One light stroke, one side',
        5,
        commonPractice('too much pressure breaks the fiber or shatters it unevenly'),
        'scribed_twice scribed_hard',
        { critical: true },
      ),
      c.check(
        'straight',
        'Pulled straight, stub onto tape',
        4,
        commonPractice('straight, no twist'),
        'pulled_twisted stub_snapped offcut_loose',
      ),
    ],
    [],
    'scribe',
  );

/** The full sequence: air polish, 3 µm, 1 µm, finishing film. Strokes and patterns by common practice. */
export function fullPolish(c: Criteria): Step[] {
  const strokes = between('25', '30', commonPractice('25 to 30 strokes'));
  return [
    step(
      'air-polish',
      'Air polish, 12 µm',
      'terminate',
      'connector',
      'In the hand, dull side, brushed without pressure in a figure of eight until the stub is almost flush.',
      [
        c.check(
          'air-polish',
          'Brushed without pressure until almost flush',
          4,
          commonPractice('12 µm in the hand, no pressure'),
          'air_polish_pressed air_polish_skipped',
        ),
      ],
    ),
    step(
      'pad',
      'Pad, puck and film ready',
      'terminate',
      'bench',
      'Glass plate, rubber side up, pad and puck wiped. Film glossy side down, no air under it, at least three drops of distilled water. The puck of this connector.',
      [
        c.check(
          'pad',
          'Pad and puck clean, film flat, glossy side down',
          3,
          commonPractice('film glossy side down, no air under it'),
          'film_upside_down air_under_film wrong_puck',
        ),
        c.count(
          'drops',
          'Drops of water',
          1,
          'drops',
          atLeast('3', commonPractice('not under three')),
          commonPractice('a few drops of distilled water'),
        ),
        c.check(
          'entered',
          'Ferrule entered without bumping the nub',
          3,
          commonPractice('enter the ferrule without bumping or crushing the nub'),
          'nub_crushed',
        ),
      ],
    ),
    step(
      'first',
      'First pass, 3 µm',
      'terminate',
      'connector',
      'Medium pressure, figure of eight 50 to 75 mm high.',
      [
        c.count(
          'strokes-3',
          'Strokes on 3 µm',
          3,
          'strokes',
          strokes,
          commonPractice('25 to 30 strokes, medium pressure'),
        ),
        c.measure(
          'eight-3',
          'Height of the eight',
          1,
          'mm',
          between('50', '75', commonPractice('50 to 75 mm')),
          commonPractice('figure of eight, 50 to 75 mm'),
          { optional: true },
        ),
      ],
      [],
      'figure-eight',
    ),
    cleanBetween(c, 'clean-1', 'Film, ferrule and puck cleaned after 3 µm'),
    step('second', 'Second pass, 1 µm', 'terminate', 'connector', 'As the first.', [
      c.count(
        'strokes-1',
        'Strokes on 1 µm',
        3,
        'strokes',
        strokes,
        commonPractice('25 to 30 strokes, medium pressure'),
      ),
    ]),
    cleanBetween(c, 'clean-2', 'Film, ferrule and puck cleaned after 1 µm'),
    step(
      'final',
      'Final pass, finishing film',
      'terminate',
      'connector',
      'Light pressure, figure of eight at most about 38 mm high. A section of the finishing film is used once. Required for single-mode.',
      [
        c.count(
          'strokes-final',
          'Strokes on the finishing film',
          4,
          'strokes',
          between('25', '35', commonPractice('25 to 35 strokes')),
          commonPractice('25 to 35 strokes, light pressure; required for single-mode'),
        ),
        c.measure(
          'eight-final',
          'Height of the eight',
          2,
          'mm',
          atMost('38', commonPractice('at most about 38 mm, 1.5 in')),
          commonPractice('at most about 38 mm high'),
        ),
        c.check(
          'fresh-section',
          'Fresh section of the finishing film',
          3,
          commonPractice('16 sections, each used once; of 3 and 1 µm a section serves about 14 connectors'),
          'section_reused',
        ),
      ],
      [],
      'figure-eight',
    ),
    step(
      'recovery',
      'Recovery polish, when the glass broke below',
      'terminate',
      'connector',
      'Shallow dark region at the microscope: 6 µm film on the pad, then on from 3 µm, no air polish. Deeper: cut off and start over.',
      [
        c.check(
          'recovery',
          'Recovered on 6 µm and on from 3 µm, or cut off',
          3,
          commonPractice('a shallow fracture is recovered, a deep one is not'),
          'recovery_skipped',
          { optional: true },
        ),
      ],
    ),
  ];
}

export const cleanBetween = (c: Criteria, name: string, label: string): Step =>
  step(
    name,
    'Cleaned between passes',
    'terminate',
    'connector',
    'Grit carried over to the next film scratches.',
    [
      c.check(
        name,
        label,
        3,
        commonPractice('clean film, ferrule and puck between passes'),
        'grit_carried_over',
      ),
    ],
  );

export const crimping = (c: Criteria, how: string): Step =>
  step(
    'crimp',
    'Crimped',
    'terminate',
    'yarn',
    how,
    [
      c.check(
        'yarn-spread',
        'Yarn spread round the whole post',
        4,
        commonPractice('spread evenly round the whole post'),
        'yarn_uneven yarn_missed',
      ),
      c.check(
        'die',
        'Right die, sleeve up to the body',
        4,
        commonPractice('with the die the connector asks for'),
        'wrong_die sleeve_not_butted',
      ),
      c.check(
        'second-crimp',
        'Second crimp grips the jacket',
        3,
        commonPractice('the first holds the yarn, the second grips the jacket'),
        'second_crimp_missing',
      ),
    ],
    [],
    'two-crimps',
  );

export const STRIP = { jacketMm: 35, bufferMm: 20, cleaveMm: 20 };

export const CAUTIONS = [GLASS, CHEMICALS, BLADES, LIGHT, DEFER];
