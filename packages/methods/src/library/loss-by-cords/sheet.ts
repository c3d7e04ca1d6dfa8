import { DIRECTIONS, type LinkUnderTest, type MethodSheet, type ReferenceMethod } from '@clear-mark/core';
import { atLeast, criteriaOf, step, stop } from '../../build.ts';
import { CHEMICALS, DEFER, LIGHT } from '../../common/cautions.ts';
import { referenceChecks } from '../../common/test-steps.ts';
import { lossRulesFor } from '../../loss-rules.ts';
import { commonPractice, house } from '../../sources.ts';
import { method } from '../method.ts';

interface LossMethod {
  readonly name: string;
  readonly cords: string;
  readonly reference: ReferenceMethod;
  readonly contains: string;
  readonly how: string;
  readonly multimode: boolean;
  /** Read from both ends, as a single-mode link is. */
  readonly bothWays: boolean;
}

const METHODS_OF_REFERENCE: readonly LossMethod[] = [
  {
    name: 'loss-one-cord',
    cords: 'one cord',
    reference: 'one_cord',
    contains: 'both end connections and everything inside',
    how: 'Source, cord, meter. Then take the cord off the meter only; link in between, receive cord added at the far end.',
    multimode: false,
    bothWays: true,
  },
  {
    name: 'loss-two-cord',
    cords: 'two cords',
    reference: 'two_cord',
    contains: 'one connection net: two are there, one was zeroed',
    how: 'Source, cord, adapter, cord, meter. Then part at the adapter, link in between with a second adapter.',
    multimode: true,
    bothWays: false,
  },
  {
    name: 'loss-three-cord',
    cords: 'three cords',
    reference: 'three_cord',
    contains: 'no end connection net',
    how: 'Source, cord, adapter, cord, adapter, cord, meter. Then the middle cord is replaced by the link.',
    multimode: true,
    bothWays: false,
  },
];

/** By two and three cords on either fiber; the one-cord link of the sheet is single-mode. */
const LOSS_METHODS: readonly LossMethod[] = METHODS_OF_REFERENCE.flatMap((m) =>
  m.multimode ? [m, { ...m, name: `${m.name}-sm`, multimode: false, bothWays: true }] : [m],
);

function lossBy(m: LossMethod): MethodSheet {
  const c = criteriaOf(m.name);
  const link: LinkUnderTest = m.multimode
    ? { fiberClass: 'OM3', lengthM: 300, matedPairs: 2, splices: 0, referenceMethod: m.reference }
    : { fiberClass: 'OS2', lengthM: 200, matedPairs: 2, splices: 2, referenceMethod: m.reference };
  const rules = lossRulesFor(link.fiberClass, m.reference);
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
            commonPractice('62.5 into 50 µm loses about 3 dB'),
            'wavelengths_differ modulated wrong_core_cord',
          ),
          c.timed(
            'settle',
            'Instruments settled before the reference',
            2,
            atLeast('300', house('five minutes from switching on')),
            house('five minutes; the instrument’s own instructions go first'),
            { sampled: true },
          ),
          c.check(
            'cords-checked',
            'Cords passed today’s check',
            3,
            commonPractice('cords checked each test day'),
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
        ...referenceChecks(c, { critical: true }),
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
            m.bothWays ? 'Loss of the link, from both ends' : 'Loss of the link',
            10,
            wavelengths,
            link,
            rules,
            commonPractice(`counted: ${m.contains}`),
            {
              critical: true,
              ...(m.bothWays ? { directions: DIRECTIONS } : {}),
              ...(m.multimode ? { conditionedBy: 'mandrel' } : {}),
            },
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
            'Loss budget computed for this link',
            4,
            commonPractice('computed, always; a rough count in the head is how slips happen'),
            'wrong_limit_used',
          ),
          c.call(
            'trainee-verdict',
            'Trainee’s verdict agrees with the limit',
            4,
            'loss',
            commonPractice('judged against the limit of this link'),
          ),
          c.check(
            'conclusion',
            'Right conclusion on a fault',
            3,
            commonPractice('dirt, joint or bend'),
            'wrong_conclusion',
            { sampled: true },
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

export const LOSS_BY_CORDS: readonly MethodSheet[] = LOSS_METHODS.map(lossBy);
