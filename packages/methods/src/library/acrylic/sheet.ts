import type { MethodSheet, Step } from '@clear-mark/core';
import { atLeast, atMost, care, type Criteria, criteriaOf, step } from '../../build.ts';
import { LIVE_FIBER_CAUTIONS } from '../../common/cautions.ts';
import {
  around,
  bareGlass,
  benchReady,
  jacket,
  kit,
  partsOn,
  recordAndClearUp,
} from '../../common/prepare-steps.ts';
import { inspecting, singleCordLoss } from '../../common/test-steps.ts';
import { commonPractice, house } from '../../sources.ts';
import { cleanBetween, cordParts, fullPolish, POLISHED_LOOK, scribing } from '../adhesive-parts.ts';
import { method } from '../method.ts';

const THINGS = ['bench', 'batch', 'film', 'scope', 'instrument', 'cord'] as const;

function primer(): MethodSheet {
  const c = criteriaOf('acrylic-primer');
  return method({
    name: 'acrylic-primer',
    title: 'Cold-cured acrylic with primer, full polish',
    summary:
      'Buffered 900 µm fiber: no jacket, yarn or crimp. Primer on the fiber, adhesive in the connector, 10 to 15 s to get home, then the full polish.',
    pieceKind: 'connector',
    strip: { jacketMm: 0, bufferMm: 20, cleaveMm: 20 },
    things: THINGS,
    cautions: LIVE_FIBER_CAUTIONS,
    steps: [
      benchReady(c),
      kit(
        c,
        'SC, ST-style or LC (LC: own card side, puck, scope head). Dates of primer and adhesive read; both capped when unused, kept within their temperatures. Syringe tip on.',
        'Dates good, right connector, puck and card side',
      ),
      partsOn(c, 'Boot on, narrow end first', 'Boot on, narrow end leading.'),
      ...bareGlass(c, {
        how: 'Card mark. Buffer and undercoat off in at least two sections; clear coating looked for.',
        bites: { least: '2', words: 'at least two sections' },
        coatingSaid: true,
        wipe: 'Dry wipe only; then untouched.',
      }),
      step(
        'prime',
        'Primed',
        'terminate',
        'glass',
        'All bare glass and some buffer into the primer, tip off the bottle’s bottom (guide: the label’s minimum depth line); rested protected; bottle capped.',
        [
          c.check('in-date', 'Primer and adhesive in date', 3, commonPractice('dates read'), 'out_of_date', {
            critical: true,
          }),
          c.check(
            'dipped',
            'All bare glass and some buffer primed, bottom not touched',
            4,
            commonPractice('all bare glass and some buffer'),
            'dip_short bottom_touched',
          ),
          c.check('capped', 'Bottle capped again', 2, commonPractice('capped when unused'), 'bottle_open', {
            sampled: true,
          }),
        ],
        [care('Primer and adhesive: ventilate, keep from eyes and skin.')],
      ),
      step(
        'inject',
        'Adhesive in',
        'terminate',
        'connector',
        'Dust cap off, syringe seated, until a small dot shows at the tip, and a little at the back; no overfill.',
        [
          c.check(
            'dot',
            'Small dot at the tip, a little at the back',
            4,
            commonPractice('small dot at the tip'),
            'no_dot overfilled',
          ),
        ],
      ),
      step(
        'insert',
        'Fiber home',
        'terminate',
        'connector',
        'Into the inner body’s centre until the buffer bottoms, within 10 to 15 s of touching adhesive; catches: rotate the connector. Then at least 30 s.',
        [
          c.check(
            'home',
            'Buffer bottomed',
            5,
            commonPractice('until the buffer bottoms'),
            'not_home forced_in',
            { critical: true },
          ),
          c.timed(
            'insertion',
            'Adhesive touched to bottomed',
            4,
            atMost('15', commonPractice('within 10 to 15 s')),
            commonPractice('it cures from the first touch'),
            {
              trainee: true,
              hint: 'Start at the first touch, stop when it bottoms.',
            },
          ),
          c.timed(
            'set-time',
            'Left alone',
            3,
            atLeast('30', commonPractice('at least 30 s')),
            commonPractice('at least 30 s before going on'),
            { trainee: true },
          ),
        ],
      ),
      scribing(c),
      ...fullPolish(c),
      inspecting(c, POLISHED_LOOK, 'terminate', true),
      ...singleCordLoss(c),
      recordAndClearUp(c),
    ],
  });
}

/** Rough film, then the fine one: no counts are known for this kit. */
const twoFilms = (c: Criteria): Step[] => [
  step(
    'coarse',
    'Brown film, 5 µm',
    'terminate',
    'connector',
    'Glass plate, rubber pad, metal disk.',
    [
      c.check(
        'coarse',
        'Rough film first, adhesive gone',
        4,
        commonPractice('brown 5 µm is the rough one'),
        'over_polished adhesive_left',
        { sampled: true },
      ),
    ],
    [],
    'figure-eight',
  ),
  cleanBetween(c, 'clean-1', 'Ferrule and disk cleaned after 5 µm'),
  step('fine', 'White film, 0.05 µm', 'terminate', 'connector', 'The fine one, after the rough.', [
    c.check(
      'finished',
      'Fine film used',
      4,
      commonPractice('white 0.05 µm is the fine one'),
      'final_skipped section_reused',
    ),
  ]),
];

function activator(): MethodSheet {
  const c = criteriaOf('acrylic-activator');
  return method({
    name: 'acrylic-activator',
    title: 'Adhesive with activator, 3 mm cord, two crimps, two films',
    summary:
      'Jacketed 3 mm cord: adhesive by syringe, an activator cures it in about 10 s, two crimps, two films. How the activator is applied, and the crimp before or after the cure, follow the kit’s instructions.',
    pieceKind: 'connector',
    strip: { jacketMm: 35, bufferMm: 20, cleaveMm: 20 },
    things: THINGS,
    cautions: LIVE_FIBER_CAUTIONS,
    steps: [
      benchReady(c),
      ...cordParts(c),
      jacket(
        c,
        '35',
        '25 mm first, then 35',
        'Marked at 35 and 25 mm. Off to 25 in small bits; yarn gathered, twisted, cut; then to 35.',
      ),
      ...bareGlass(c, {
        how: 'Fiber end on the card’s line; marked at 20 mm. The buffer’s strip length is not told: by the kit.',
        length: {
          band: around('15', '2'),
          source: house('by arithmetic, where it is stripped to the mark at 20 mm'),
          required: false,
        },
        wipe: 'Cleaner, or alcohol as a substitute; never an ordinary wipe.',
      }),
      step(
        'glue',
        'Adhesive and activator',
        'terminate',
        'connector',
        'Adhesive by syringe into the ferrule; the activator cures it in about 10 s. Applied as the kit says.',
        [
          c.check(
            'home',
            'Fiber home before the cure',
            5,
            house('by the kit’s instructions'),
            'not_home forced_in',
            { critical: true },
          ),
          c.timed(
            'set-time',
            'Cure',
            3,
            atLeast('10', commonPractice('about 10 s')),
            commonPractice('the activator cures in about 10 s'),
            { trainee: true },
          ),
        ],
      ),
      step(
        'crimp',
        'Two crimps',
        'terminate',
        'yarn',
        'First: body to ring by the yarn. Second: ring to jacket.',
        [
          c.check(
            'yarn-spread',
            'First crimp, body to ring, yarn held',
            4,
            commonPractice('first crimp by the yarn'),
            'yarn_uneven yarn_missed wrong_die pulled_off',
          ),
          c.check(
            'second-crimp',
            'Second crimp, ring to jacket',
            4,
            commonPractice('second ring to jacket'),
            'second_crimp_missing pulled_off',
          ),
        ],
        [],
        'two-crimps',
      ),
      scribing(c),
      ...twoFilms(c),
      inspecting(
        c,
        'Cleaned first. 200 times, direct and coaxial light. Both ends off source and meter. Cap on whenever possible.',
      ),
      ...singleCordLoss(c),
      recordAndClearUp(c),
    ],
  });
}

export const ACRYLIC: readonly MethodSheet[] = [primer(), activator()];
