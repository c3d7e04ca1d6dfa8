import type { MethodSheet, Step } from '@clear-mark/core';
import { atLeast, atMost, between, care, type Criteria, criteriaOf, step } from '../build.ts';
import { BLADES, CHEMICALS, DEFER, GLASS, HEAT, LIGHT } from '../common/cautions.ts';
import { bareGlass, benchReady, clearUp, inspecting, kit, partsOn, singleCordLoss } from '../common/steps.ts';
import { commonPractice, house } from '../sources.ts';
import { method } from './method.ts';

const scribing = (c: Criteria): Step =>
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
  );

/** The full sequence: air polish, 3 um, 1 um, finishing film. Strokes and patterns by common practice. */
function fullPolish(c: Criteria): Step[] {
  const strokes = between('25', '30', commonPractice('25 to 30 strokes'));
  return [
    step(
      'air-polish',
      'Air polish, 12 um',
      'terminate',
      'connector',
      'In the hand, dull side, brushed without pressure in a figure of eight until the stub is almost flush.',
      [
        c.check(
          'air-polish',
          'Brushed without pressure until almost flush',
          4,
          commonPractice('12 um in the hand, no pressure'),
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
      'First pass, 3 um',
      'terminate',
      'connector',
      'Medium pressure, figure of eight 50 to 75 mm high.',
      [
        c.count(
          'strokes-3',
          'Strokes on 3 um',
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
    ),
    cleanBetween(c, 'clean-1', 'Film, ferrule and puck cleaned after 3 um'),
    step('second', 'Second pass, 1 um', 'terminate', 'connector', 'As the first.', [
      c.count(
        'strokes-1',
        'Strokes on 1 um',
        3,
        'strokes',
        strokes,
        commonPractice('25 to 30 strokes, medium pressure'),
      ),
    ]),
    cleanBetween(c, 'clean-2', 'Film, ferrule and puck cleaned after 1 um'),
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
          commonPractice('16 sections, each used once; of 3 and 1 um a section serves about 14 connectors'),
          'section_reused',
        ),
      ],
    ),
    step(
      'recovery',
      'Recovery polish, when the glass broke below',
      'terminate',
      'connector',
      'Shallow dark region at the microscope: 6 um film on the pad, then on from 3 um, no air polish. Deeper: cut off and start over.',
      [
        c.check(
          'recovery',
          'Recovered on 6 um and on from 3 um, or cut off',
          3,
          commonPractice('a shallow fracture is recovered, a deep one is not'),
          'recovery_skipped',
          { optional: true },
        ),
      ],
    ),
  ];
}

const cleanBetween = (c: Criteria, name: string, label: string): Step =>
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

const crimping = (c: Criteria, how: string): Step =>
  step('crimp', 'Crimped', 'terminate', 'yarn', how, [
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
  ]);

const STRIP = { jacketMm: 35, bufferMm: 20, cleaveMm: 20 };
const CAUTIONS = [GLASS, CHEMICALS, BLADES, LIGHT, DEFER];

function epoxy(): MethodSheet {
  const c = criteriaOf('epoxy-heat');
  return method({
    name: 'epoxy-heat',
    title: 'Heat-cured epoxy, crimped, cured and polished',
    summary: 'A connector pre-loaded with epoxy on a 3 mm cord: production bench, oven, full polish.',
    pieceKind: 'connector',
    strip: STRIP,
    things: ['bench', 'batch', 'film', 'scope', 'instrument', 'cord'],
    cautions: [...CAUTIONS.slice(0, 2), HEAT, ...CAUTIONS.slice(2)],
    steps: [
      benchReady(c),
      kit(c, 'Connector pre-loaded with degassed epoxy, bead on the tip, dates good, sleeve by the gauge.'),
      partsOn(
        c,
        'Boot, then crimp sleeve, narrow end first',
        'Boot, then crimp sleeve, slid near the end but out of the way.',
      ),
      ...bareGlass(c, { mm: '20', tolerance: '1', words: 'a mark at 20 mm for the buffer' }),
      step(
        'feed',
        'Fiber fed through',
        'terminate',
        'connector',
        'Feel for the bore; see the fiber come out of the front. Do not bump the bead.',
        [
          c.check(
            'through',
            'Fiber seen at the front, bead not bumped',
            5,
            commonPractice('excess epoxy or fiber beyond the tip can touch the oven block'),
            'bead_bumped forced_in fiber_broke_inside',
            { critical: true },
          ),
        ],
      ),
      crimping(
        c,
        'Yarn round the post, sleeve up, crimp with the die asked for; some need a second crimp on the small end.',
      ),
      step(
        'cure',
        'Cured',
        'terminate',
        'connector',
        'Single-fiber connectors hang, multi-fiber ones lie flat; fiber straight out of the cavity, ferrule in contact with the heated block.',
        [
          c.check(
            'contact',
            'Ferrule in contact with the block, fiber straight',
            4,
            commonPractice('no contact, no full cure'),
            'no_contact fiber_bent_in_oven',
          ),
          c.timed(
            'cure-time',
            'Cure',
            5,
            between('900', '3600', commonPractice('15 to 60 minutes by the epoxy’s schedule')),
            commonPractice('by the epoxy’s schedule'),
            { critical: true },
          ),
          c.timed(
            'cool-down',
            'Cool-down before it is touched',
            2,
            atLeast('180', house('some minutes')),
            house('three minutes at least'),
            { optional: true },
          ),
        ],
        [care('Oven and connector are hot; let parts cool.')],
      ),
      scribing(c),
      ...fullPolish(c),
      inspecting(c),
      ...singleCordLoss(c),
      clearUp(c),
    ],
  });
}

function acrylic(activator: boolean): MethodSheet {
  const name = activator ? 'acrylic-activator' : 'acrylic-primer';
  const c = criteriaOf(name);
  const setting = activator
    ? c.timed(
        'set-time',
        'Left alone until set',
        4,
        atLeast('10', commonPractice('about 10 s with the activator')),
        commonPractice('the activator variety cures in about 10 s'),
      )
    : c.timed(
        'set-time',
        'Left alone until set',
        4,
        atLeast('30', commonPractice('at least 30 s')),
        commonPractice('at least 30 s before going on'),
      );
  return method({
    name,
    title: activator
      ? 'Cold-cured acrylic with activator, two films'
      : 'Cold-cured acrylic with primer, full polish',
    summary: activator
      ? 'Field connector with the activator variety and a two-film kit: 5 um straight to 0.05 um.'
      : 'Field connector: primer on the fiber, adhesive in the connector, 10 to 15 s to get home, then the full polishing sequence.',
    pieceKind: 'connector',
    strip: STRIP,
    things: ['bench', 'batch', 'film', 'scope', 'instrument', 'cord'],
    cautions: CAUTIONS,
    steps: [
      benchReady(c),
      kit(
        c,
        'Adhesive and primer in date, capped, stored within their temperatures. Sleeve by the gauge, boot for the cord.',
      ),
      partsOn(
        c,
        'Boot, then crimp sleeve, narrow end first',
        'Boot, then crimp sleeve, narrow end first, out of the way.',
      ),
      ...bareGlass(c, { mm: '20', tolerance: '1', words: 'a mark at 20 mm for the buffer' }),
      step(
        'prime',
        activator ? 'Activator on the fiber' : 'Primed',
        'terminate',
        'glass',
        'Dip the bare fiber and some buffer down to the mark on the bottle, without touching its bottom; rest it in a protected place; cap the bottle. Where primer follows, a dry wipe alone before it.',
        [
          c.check(
            'dipped',
            'Dipped to the mark, bottom not touched',
            4,
            commonPractice('down to the mark, without touching the bottom'),
            'dip_short bottom_touched',
          ),
          c.check('capped', 'Bottle capped again', 2, commonPractice('cap the bottle'), 'bottle_open'),
        ],
        [care('Primer and adhesive: ventilate, keep from eyes and skin.')],
      ),
      step(
        'inject',
        'Adhesive in',
        'terminate',
        'connector',
        'Syringe tip seated, until a small dot shows at the ferrule tip, and a little at the back for the buffer. Overfilled it flows back.',
        [
          c.check(
            'dot',
            'Small dot at the tip, a little at the back, not overfilled',
            4,
            commonPractice('until a small dot shows'),
            'no_dot overfilled',
          ),
        ],
      ),
      step(
        'insert',
        'Fiber in to the stop',
        'terminate',
        'connector',
        'Within 10 to 15 s of first contact: it starts curing. Rotate gently if it catches; do not force it between inner and outer body.',
        [
          c.timed(
            'insertion',
            'First contact to the stop',
            5,
            atMost('15', commonPractice('within 10 to 15 s')),
            commonPractice('it starts curing at first contact'),
            { critical: true, hint: 'Start at first contact, stop when it is home.' },
          ),
          c.check(
            'not-forced',
            'Rotated, not forced',
            3,
            commonPractice('rotate gently if it catches'),
            'forced_in',
          ),
          setting,
        ],
      ),
      crimping(c, 'First crimp holds the yarn between body and ring, the second grips the jacket.'),
      scribing(c),
      ...(activator ? twoFilms(c) : fullPolish(c)),
      inspecting(c),
      ...singleCordLoss(c),
      clearUp(c),
    ],
  });
}

const twoFilms = (c: Criteria): Step[] => [
  step(
    'coarse',
    'First film, 5 um',
    'terminate',
    'connector',
    'Flat on the pad, figure of eight, until the adhesive is gone.',
    [
      c.check(
        'coarse',
        'Adhesive gone, not polished on',
        4,
        commonPractice('over-polishing and too much pressure are the common faults'),
        'over_polished adhesive_left',
      ),
    ],
  ),
  cleanBetween(c, 'clean-1', 'Ferrule and puck cleaned after 5 um'),
  step(
    'fine',
    'Second film, 0.05 um',
    'terminate',
    'connector',
    'Light pressure; a two-film kit goes from 5 um straight to 0.05 um.',
    [
      c.count(
        'strokes-final',
        'Strokes on the finishing film',
        4,
        'strokes',
        between('25', '35', commonPractice('25 to 35 strokes')),
        commonPractice('25 to 35 strokes, light pressure'),
      ),
      c.check(
        'fresh-section',
        'Fresh section of the finishing film',
        3,
        commonPractice('each section is used once'),
        'section_reused',
      ),
    ],
  ),
];

export const ADHESIVE: readonly MethodSheet[] = [epoxy(), acrylic(false), acrylic(true)];
