import type { LinkUnderTest, LossRules, MethodSheet, ReferenceMethod } from '@clear-mark/core';
import { atLeast, atMost, criteriaOf, step, stop } from '../build.ts';
import { CHEMICALS, DEFER, LIGHT } from '../common/cautions.ts';
import { END_FACES } from '../common/steps.ts';
import { MULTIMODE, SINGLE_MODE_INSIDE } from '../loss-rules.ts';
import { commonPractice, house, standardFromMemory } from '../sources.ts';
import { method } from './method.ts';

function inspection(mpo: boolean): MethodSheet {
  const c = criteriaOf(mpo ? 'inspect-mpo' : 'inspect-single');
  return method({
    name: mpo ? 'inspect-mpo' : 'inspect-single',
    title: mpo ? 'Inspection and cleaning routine, MPO' : 'Inspection and cleaning routine, single fiber',
    summary: mpo
      ? 'The whole row is scanned; pins, type and key are checked at the same time.'
      : 'Inspect, clean, inspect again, then connect. Nothing is mated unseen.',
    pieceKind: 'connector',
    things: ['bench', 'scope'],
    cautions: [LIGHT, CHEMICALS, DEFER],
    steps: [
      step(
        'dark',
        'Source off',
        'inspect',
        'connector',
        'Source off, or the far end disconnected.',
        [
          c.check(
            'dark-fiber',
            'Fiber known to be dark before the scope',
            4,
            commonPractice('a scope never goes on a connector that could be live'),
            'live_fiber_scoped',
            { stop: true },
          ),
        ],
        [stop('No microscope on a live fiber.')],
      ),
      step(
        'adapter',
        'Right adapter and magnification',
        'inspect',
        'instruments',
        mpo
          ? 'Scanning adapter for MPO; angled ends need an angled one.'
          : '2.5 mm for SC, ST-style, FC; 1.25 mm for LC; an angled adapter for angled ends. 100x is too little to judge a polish.',
        [
          c.check(
            'adapter',
            'Adapter fits the connector',
            3,
            commonPractice('universal 2.5 mm, 1.25 mm for LC, scanning for MPO'),
            'wrong_adapter',
          ),
          c.count(
            'magnification',
            'Magnification',
            2,
            'times',
            atLeast('200', commonPractice('200x is common, 400x shows it all')),
            commonPractice('200x at least, 400x to grade a polish'),
          ),
          ...(mpo
            ? [
                c.check(
                  'row',
                  'Whole row scanned',
                  4,
                  commonPractice('dust at one side lifts the other'),
                  'row_not_scanned',
                ),
                c.check(
                  'pins-key',
                  'Pins, type and key checked',
                  3,
                  commonPractice('checked at the same time'),
                  'pins_not_checked',
                ),
              ]
            : []),
        ],
      ),
      step(
        'first-look',
        'Inspected first',
        'inspect',
        'connector',
        'An unneeded clean can dirty a clean face.',
        [
          c.check(
            'looked-first',
            'Looked before cleaning',
            4,
            commonPractice('inspect first, clean if needed'),
            'cleaned_unseen',
          ),
        ],
      ),
      step(
        'clean',
        'Cleaned if dirty',
        'inspect',
        'connector',
        mpo
          ? 'A cleaner that reaches between the pins; dry first, then wet and dried at once.'
          : 'Dry first (push cleaner or lint-free wipe), inspect; if it stays: wet with alcohol, then dry at once; inspect.',
        [
          c.check(
            'dry-first',
            'Dry first, wet only if it stays',
            3,
            commonPractice('dry clean first'),
            'wet_first',
          ),
          c.check(
            'dried',
            'Dried at once after alcohol',
            3,
            commonPractice('alcohol left to dry leaves rings'),
            'alcohol_left',
            { optional: true },
          ),
          c.count(
            'cleans',
            'Cleans',
            2,
            'cleans',
            atMost('3', commonPractice('after three cleans a mark that stays is damage')),
            commonPractice('after three cleans a mark that stays is damage'),
          ),
        ],
      ),
      step(
        'again',
        'Inspected again and judged',
        'inspect',
        'connector',
        'Grade after cleaning: all loose dirt that can be cleaned away should be.',
        [
          c.check(
            'looked-again',
            'Inspected again',
            4,
            commonPractice('inspect, clean, inspect again'),
            'not_inspected_again',
          ),
          c.grade(
            'end-face',
            mpo ? 'Worst end face of the row, by the instructor' : 'End face, by the instructor',
            3,
            END_FACES.map((l) => ({ ...l, points: Math.min(3, l.points) })),
            standardFromMemory('IEC 61300-3-35'),
            { optional: true },
          ),
          c.check(
            'inspect-call',
            'Trainee judged as the instructor does',
            5,
            commonPractice('calling a bad face good is worse than calling a good one bad'),
            'called_bad_good called_good_bad',
            { critical: true },
          ),
        ],
      ),
      step(
        'cap',
        'Mated now or capped',
        'inspect',
        'connector',
        'Cap back on if it is not mated now; caps are dirty too, so inspect again later.',
        [
          c.check(
            'capped',
            'Mated or capped',
            2,
            commonPractice('cap goes back on if it is not mated now'),
            'cap_off',
          ),
        ],
      ),
    ],
  });
}

interface LossMethod {
  readonly name: string;
  readonly cords: string;
  readonly reference: ReferenceMethod;
  readonly contains: string;
  readonly how: string;
  readonly multimode: boolean;
}

const LOSS_METHODS: readonly LossMethod[] = [
  {
    name: 'loss-one-cord',
    cords: 'one cord',
    reference: 'one_cord',
    contains: 'both end connections and everything inside',
    how: 'Source, cord, meter. Then take the cord off the meter only; link in between, receive cord added at the far end.',
    multimode: false,
  },
  {
    name: 'loss-two-cord',
    cords: 'two cords',
    reference: 'two_cord',
    contains: 'one connection net: two are there, one was zeroed',
    how: 'Source, cord, adapter, cord, meter. Then part at the adapter, link in between with a second adapter.',
    multimode: true,
  },
  {
    name: 'loss-three-cord',
    cords: 'three cords',
    reference: 'three_cord',
    contains: 'no end connection net',
    how: 'Source, cord, adapter, cord, adapter, cord, meter. Then the middle cord is replaced by the link.',
    multimode: true,
  },
];

function lossBy(m: LossMethod): MethodSheet {
  const c = criteriaOf(m.name);
  const link: LinkUnderTest = m.multimode
    ? { fiberClass: 'OM3', lengthM: 300, matedPairs: 2, splices: 0, referenceMethod: m.reference }
    : { fiberClass: 'OS2', lengthM: 200, matedPairs: 2, splices: 2, referenceMethod: m.reference };
  const rules: LossRules = m.multimode ? MULTIMODE : SINGLE_MODE_INSIDE;
  const wavelengths = m.multimode ? [850, 1300] : [1310, 1550];
  const launch = m.multimode
    ? [
        c.check(
          'mandrel',
          'Launch cord round the mandrel, or mode-controlled',
          4,
          commonPractice('without it a link can fail falsely'),
          'mandrel_missing',
        ),
      ]
    : [];
  return method({
    name: m.name,
    title: `Loss by ${m.cords}, ${m.multimode ? 'multimode' : 'single-mode'} link`,
    summary: `The reading contains ${m.contains}. The link of the sheet: ${link.lengthM} m ${link.fiberClass}, a panel at each end${link.splices > 0 ? `, ${link.splices} splices` : ''}.`,
    pieceKind: 'link',
    fiberClass: link.fiberClass,
    things: ['bench', 'scope', 'instrument', 'cord'],
    cautions: [LIGHT, CHEMICALS, DEFER],
    steps: [
      step(
        'set-up',
        'Set up',
        'test',
        'instruments',
        'On, auto-off disabled, continuous wave, same wavelength on both, the source that fits the fiber, cords of the same core size. Let them settle.',
        [
          c.check(
            'set-up',
            'Same wavelength, continuous wave, cords of the link’s core size',
            4,
            commonPractice('62.5 into 50 um loses about 3 dB'),
            'wavelengths_differ modulated wrong_core_cord',
          ),
          c.timed(
            'settle',
            'Instruments settled before the reference',
            2,
            atLeast('300', house('five minutes from switching on')),
            house('five minutes; the instrument’s own instructions go first'),
            { optional: true },
          ),
          c.check(
            'cords-checked',
            'Cords passed today’s check',
            3,
            commonPractice('check the cords every test day'),
            'cords_unchecked',
          ),
          ...launch,
        ],
        [stop('Source on: invisible light at every open end.')],
      ),
      step(
        'ends',
        'Every end inspected and cleaned',
        'inspect',
        'connector',
        'Each end before it is mated, each time.',
        [
          c.check(
            'ends-clean',
            'Every end inspected, cleaned if needed',
            4,
            commonPractice('inspect and clean every end before it is mated'),
            'mated_unseen',
            { critical: true },
          ),
        ],
      ),
      step('reference', `Reference by ${m.cords}`, 'test', 'instruments', m.how, [
        c.check(
          'cords-in',
          `${m.cords[0]!.toUpperCase()}${m.cords.slice(1)} between source and meter`,
          4,
          commonPractice('how many cords are between source and meter when zero is set'),
          'wrong_reference_method',
        ),
        c.check(
          'reference-set',
          'Zero shown at both wavelengths',
          4,
          commonPractice('after setting, the meter must read 0.00 dB'),
          'not_zeroed one_wavelength_only',
        ),
        c.check(
          'cord-stays',
          'Launch cord left on the source',
          4,
          commonPractice('taken off, the reference is gone'),
          'cord_taken_off',
          { critical: true },
        ),
      ]),
      step(
        'read',
        'Loss read',
        'test',
        'instruments',
        `Contained in the reading: ${m.contains}. Let it settle before it is saved, under the fiber’s number.`,
        [
          c.loss(
            'loss',
            'Loss of the link',
            10,
            wavelengths,
            link,
            rules,
            commonPractice(`counted: ${m.contains}`),
            { critical: true },
          ),
        ],
      ),
      step(
        'judge',
        'Judged and recorded',
        'test',
        'instruments',
        'Pass or fail against the limit of this link; what would settle a marginal one; 1550 far above 1310 points to a bend, both high to dirt or a joint.',
        [
          c.check(
            'limit',
            'Limit computed for this link',
            4,
            commonPractice('computed, always; a rough count in the head is how slips happen'),
            'wrong_limit_used',
          ),
          c.check(
            'trainee-verdict',
            'Trainee’s verdict agrees with the limit',
            4,
            commonPractice('judged against the limit of this link'),
            'wrong_verdict',
          ),
          c.check(
            'conclusion',
            'Right conclusion on a fault',
            3,
            commonPractice('dirt, joint or bend'),
            'wrong_conclusion',
            { optional: true },
          ),
          c.check(
            'record',
            'Record complete',
            3,
            commonPractice('fiber, direction, wavelength, method, reference value, limit'),
            'record_incomplete',
          ),
        ],
      ),
    ],
  });
}

function continuity(): MethodSheet {
  const c = criteriaOf('locator-continuity');
  return method({
    name: 'locator-continuity',
    title: 'Continuity by fault locator',
    summary: 'Red light first: at the right port and strong, no broken fiber; then loss.',
    pieceKind: 'link',
    things: ['bench', 'instrument'],
    cautions: [LIGHT, DEFER],
    steps: [
      step(
        'locator',
        'Locator on',
        'test',
        'instruments',
        'Polish of the cord matches the port. Far end watched from the side.',
        [
          c.check(
            'no-look',
            'Nobody looked into a lit connector',
            4,
            commonPractice('the red fault locator is a laser as well'),
            'looked_into_light',
            { stop: true },
          ),
          c.check(
            'polish',
            'Cord’s polish matches the port',
            3,
            commonPractice('flat or angled'),
            'polish_mismatch',
          ),
        ],
        [stop('The fault locator is a laser: look from the side, cap unused ports.')],
      ),
      step(
        'walk',
        'Ports walked',
        'test',
        'instruments',
        'Usually two people, port by port, talking. Walk them in order and note where each comes out.',
        [
          c.count(
            'ports',
            'Ports walked',
            3,
            'ports',
            atLeast('12', house('a panel of twelve')),
            commonPractice('walk the ports 1 to 12'),
          ),
          c.check(
            'right-port',
            'Light at the right port, strong',
            5,
            commonPractice('light at the right port and strong, no broken fiber'),
            'wrong_port light_weak',
            { critical: true },
          ),
          c.check(
            'broken-found',
            'Broken fiber found and named',
            4,
            commonPractice('dark at the far end'),
            'broken_missed',
            { optional: true },
          ),
          c.check(
            'record',
            'Map written down',
            3,
            commonPractice('keep the polarity’s documentation'),
            'record_incomplete',
          ),
        ],
      ),
      step('capped', 'Ports capped', 'test', 'connector', 'Locator off, unused ports capped.', [
        c.check('capped', 'Unused ports capped', 2, commonPractice('cap unused ports'), 'cap_off'),
      ]),
    ],
  });
}

export const TESTING: readonly MethodSheet[] = [
  inspection(false),
  inspection(true),
  ...LOSS_METHODS.map(lossBy),
  continuity(),
];
