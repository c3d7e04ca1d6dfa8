import type { Step } from '@clear-mark/core';
import { atLeast, atMost, between, step, type Criteria } from '../build.ts';
import { kit, partsOn } from '../common/prepare-steps.ts';
import { commonPractice, house } from '../sources.ts';

/** The stub of a cured connector scored and pulled, inside a termination. */
export const scribing = (c: Criteria): Step =>
  step(
    'scribe',
    'Scribed and pulled',
    'cleave',
    'connector',
    'Blade flat on the ferrule tip, bevel up; one side scored lightly near where the glass leaves the tip. Straight pull. It will not come: score the opposite side. Stub to tape; adhesive off the blade before it dries.',
    [
      c.check(
        'one-light-stroke',
        'Scored lightly, straight pull',
        5,
        commonPractice('lightly; straight, untwisted'),
        'scribed_hard pulled_twisted',
        { sampled: true },
      ),
      c.check(
        'stub',
        'Stub came off whole, onto tape',
        4,
        commonPractice('a snapped stub may have broken the glass below: the scope decides'),
        'stub_snapped offcut_loose',
      ),
    ],
    [],
    'scribe',
  );

const eights = (c: Criteria, name: string, label: string, most: string, words: string) =>
  c.count(name, label, 3, 'figures', between('25', most, commonPractice(words)), commonPractice(words), {
    trainee: true,
  });

/** Air polish, 3 µm, 1 µm, finishing film, as of the primer kind. */
export const fullPolish = (c: Criteria, borrowed = false): Step[] => [
  step(
    'air-polish',
    'Air polish, grey 12 µm',
    'terminate',
    'connector',
    'In the hand, dull side, figure of eight, gentle, until the stub is almost flush.',
    [
      c.check(
        'air-polish',
        'Gentle, until almost flush',
        4,
        commonPractice('gentle; no count'),
        'air_polish_pressed air_polish_skipped',
        { sampled: true },
      ),
    ],
  ),
  step(
    'first',
    'Pink film, 3 µm',
    'terminate',
    'connector',
    'Pad and puck wiped, rubber side up; film glossy side down, no air under it, 3 or 4 drops of water at least. Into the puck and down gently, tip unbumped. Medium pressure, 25 to 30 figures of eight, 50 to 75 mm.',
    [
      c.check(
        'pad',
        'Pad and puck clean, film flat, glossy side down',
        3,
        commonPractice('glossy side down, no air under it'),
        'film_upside_down air_under_film wrong_puck',
        { sampled: true },
      ),
      c.count(
        'drops',
        'Drops of water',
        1,
        'drops',
        atLeast('3', commonPractice('3 or 4 at least')),
        commonPractice('3 or 4 drops at least'),
        { trainee: true },
      ),
      c.check(
        'entered',
        'Ferrule into the puck, tip unbumped',
        3,
        commonPractice('down gently, tip unbumped'),
        'nub_crushed',
        { sampled: true },
      ),
      eights(c, 'strokes-3', 'Figures of eight on 3 µm', '30', '25 to 30, medium'),
    ],
    [],
    'figure-eight',
  ),
  cleanBetween(c, 'clean-1', 'Ferrule, puck and film cleaned after 3 µm'),
  step('second', 'Purple film, 1 µm', 'terminate', 'connector', 'As the first.', [
    eights(c, 'strokes-1', 'Figures of eight on 1 µm', '30', '25 to 30, medium'),
  ]),
  cleanBetween(c, 'clean-2', 'Ferrule, puck and film cleaned after 1 µm'),
  step(
    'final',
    'White finishing film',
    'terminate',
    'connector',
    'Unused section, several drops, light pressure, 25 to 35 figures of eight, at most 38 mm (1.5 in) high. Required for single-mode, recommended for laser-optimised 50 µm.',
    [
      c.check(
        'finished',
        'Finishing film used, fresh section',
        4,
        borrowed
          ? house('as of the primer kind')
          : commonPractice('required for single-mode; each section is used once'),
        'final_skipped section_reused',
      ),
      eights(c, 'strokes-final', 'Figures of eight on the finishing film', '35', '25 to 35, light'),
      c.measure(
        'eight-final',
        'Height of the eight',
        1,
        'mm',
        atMost('38', commonPractice('at most 38 mm, 1.5 in')),
        commonPractice('at most 38 mm high'),
        { sampled: true },
      ),
    ],
    [],
    'figure-eight',
  ),
  step(
    'recovery',
    'Recovery, where the glass broke below',
    'terminate',
    'connector',
    'Dark region, shallow: bronze 6 µm on the pad as on 3 µm, cleaned, on from 3 µm; no air polish. Deep: cut off and begin again.',
    [
      c.check(
        'recovery',
        'Recovered on 6 µm and on from 3 µm, or begun again',
        3,
        commonPractice('a shallow fracture is recovered'),
        'recovery_skipped',
        { sampled: true },
      ),
    ],
  ),
];

export const cleanBetween = (c: Criteria, name: string, label: string): Step =>
  step(
    name,
    'Cleaned between the films',
    'terminate',
    'connector',
    'Grit carried over to the next film scratches.',
    [
      c.check(name, label, 3, commonPractice('ferrule, puck, film cleaned'), 'grit_carried_over', {
        sampled: true,
      }),
    ],
  );

/** After polishing: cleaned before the first look, then the face at 400 times. */
export const POLISHED_LOOK =
  'Alcohol wipe, dry wipe, then the look, at 400 times: no scratch, void, chip. Both ends off source and meter first.';

/** The loose parts of the 3 mm cord and its connector with activator. */
export const cordParts = (c: Criteria): Step[] => [
  kit(c, 'Connector for the core chosen before its bag is opened.', 'Connector for this core'),
  partsOn(
    c,
    'Large boot, then crimp ring, narrow end first',
    'Large boot on, narrow end leading, then the crimp ring likewise; both checked, pushed back.',
  ),
];

export const STRIP = { jacketMm: 35, bufferMm: 20, cleaveMm: 20 };
