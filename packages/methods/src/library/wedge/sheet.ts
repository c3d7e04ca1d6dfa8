import type { MethodSheet, Step } from '@clear-mark/core';
import { criteriaOf, type Criteria, step, stop } from '../../build.ts';
import { LIVE_FIBER_CAUTIONS } from '../../common/cautions.ts';
import { cleaving } from '../../common/cleave-steps.ts';
import { around, bareGlass, benchReady, jacket, kit, partsOn } from '../../common/prepare-steps.ts';
import { commonPractice, house } from '../../sources.ts';
import { method } from '../method.ts';
import { afterLock, insert, lookByChoice, THINGS } from '../prepolished-parts.ts';

interface Wedge {
  readonly name: string;
  readonly family: 'LC' | 'ST-style';
  readonly locator: boolean;
  /** The criterion of the loose parts, kept from the first version. */
  readonly partsName: string;
}

const WEDGES: readonly Wedge[] = [
  { name: 'lc-wedge-locator', family: 'LC', locator: true, partsName: 'boot-on' },
  { name: 'lc-wedge', family: 'LC', locator: false, partsName: 'parts-on' },
  { name: 'st-wedge', family: 'ST-style', locator: false, partsName: 'parts-on' },
  { name: 'st-wedge-locator', family: 'ST-style', locator: true, partsName: 'parts-on' },
];

/** What the two families do differently: lengths in mm, the integrity check, and the way to the end. */
const FAMILY = {
  LC: {
    jacket: '70',
    buffer: '40',
    lower: '10',
    upper: '11',
    target: '10.5',
    lengthWords: '10.5 mm, 0.5 mm either way',
    clamp: 'Cable clamp 250 mm (10 in) from the end',
    integrity: {
      label: 'Bent slightly at 60 degrees, glass held',
      how: 'The stripped end bent slightly at 60 degrees, before it is cleaned.',
      before: true,
    },
    wedge: 'Wedge loose: squeeze top and bottom until it clicks. Shipped in place it is in already.',
    squeeze: 'both sides',
    secure:
      'Cord out of the grip, boot past it, cord straightened and back; yarn halved into both grips, lightly tugged with the buffer straight; boot screwed on: it fixes the yarn. Off the tool; wedge unit off, yarn trimmed, clamp off.',
  },
  'ST-style': {
    jacket: '65',
    buffer: '35',
    lower: '10',
    upper: '11',
    target: '10.5',
    lengthWords: '10 to 11 mm',
    clamp: 'Cable clamp 300 mm (12 in) from the end',
    integrity: {
      label: 'Flicked after the cleaning, glass held',
      how: 'Cleaned first, then flicked.',
      before: false,
    },
    wedge: 'Always: squeeze top and bottom until it clicks.',
    squeeze: 'the wedge',
    secure:
      'Yarn to both grips before the boot slides up; boot screwed on, yarn trimmed, clamp off. The ST housing goes on last.',
  },
} as const;

const locatorProof = (c: Criteria) =>
  c.check(
    'glow-dims',
    'Glow dimmed at the insertion and at the release',
    5,
    commonPractice('light at the window means that the faces do not meet'),
    'glow_stayed locator_off',
    {
      critical: true,
    },
  );

function joining(c: Criteria, w: Wedge): Step[] {
  const f = FAMILY[w.family];
  const squeeze =
    w.family === 'LC' ? 'Both sides squeezed with the bow standing' : 'Wedge squeezed with the bow standing';
  return [
    insert(
      c,
      {
        how: w.locator
          ? `${f.wedge} Front cap off, locator on, glow at the first position. Fiber in until the glow dims; slight bow.`
          : `${f.wedge} Fiber slowly in until contact; bend kept.`,
        label: w.family === 'LC' ? 'In until contact, bend kept' : 'In until contact, slight bow',
      },
      [
        c.check(
          'wedge-in',
          'Wedge fully in before the fiber',
          3,
          commonPractice('top and bottom squeezed, click'),
          'wedge_not_seated',
        ),
      ],
    ),
    step(
      'release',
      'Wedge released',
      'terminate',
      'connector',
      `Squeeze ${f.squeeze} while the bend stands.${w.locator ? ' The glow dims once more. Then locator off, cap on.' : ''}`,
      [
        c.check(
          'both-sides',
          squeeze,
          4,
          commonPractice(`${f.squeeze} squeezed after contact, bend kept`),
          'released_before_bow one_side_only',
          {
            critical: !w.locator,
          },
        ),
        ...(w.locator ? [locatorProof(c)] : []),
      ],
      w.locator ? [stop('The fault locator is a laser: never look into the connector.')] : [],
      'squeeze',
    ),
    step('secure', 'Cord secured, tool off', 'terminate', 'yarn', f.secure, [
      c.check(
        'yarn',
        'Yarn halved, taut, held by the boot',
        4,
        commonPractice('the boot fixes the yarn'),
        'yarn_uneven yarn_slack yarn_missed pulled_off',
        { sampled: true },
      ),
      c.check(
        'fiber-not-pulled',
        'Buffer straight, fiber not pulled',
        4,
        house('a pulled buffer opens the joint'),
        'fiber_pulled buffer_bent',
        { sampled: true },
      ),
      c.check(
        'finish',
        'Wedge unit and clamp off, yarn trimmed, cap on',
        3,
        commonPractice('finished as the instructions show'),
        'yarn_not_trimmed cap_off clamp_left_on',
        { sampled: true },
      ),
    ]),
  ];
}

function wedge(w: Wedge): MethodSheet {
  const c = criteriaOf(w.name);
  const f = FAMILY[w.family];
  const shown = w.family === 'LC' || !w.locator;
  return method({
    name: w.name,
    title: `Pre-polished ${w.family}, wedge released, ${w.locator ? 'with' : 'without'} fault locator`,
    summary: `A single-mode ${w.family} on a 2 or 3 mm cord. The cleaved fiber meets the polished stub in gel; the wedge is squeezed out and holds it.${shown ? '' : ' With a locator this family is of the house: go by the connector’s instructions.'}`,
    pieceKind: 'connector',
    strip: { jacketMm: Number(f.jacket), bufferMm: Number(f.buffer), cleaveMm: Number(f.target) },
    things: THINGS,
    cautions: LIVE_FIBER_CAUTIONS,
    look: lookByChoice(c),
    steps: [
      benchReady(c),
      kit(c, `Single-mode ${w.family} for this cord, wedge unit complete, fitting boot.`),
      partsOn(c, 'Clamp, then boot, narrow end first', `${f.clamp}, then the fitting boot.`, w.partsName),
      jacket(
        c,
        f.jacket,
        `${f.jacket} mm of jacket`,
        `Marked on the card, one mark a layer. Off at ${f.jacket} mm in small pieces, square edge, yarn whole.`,
      ),
      ...bareGlass(c, {
        how: `Off at ${f.buffer} mm: ${Number(f.jacket) - Number(f.buffer)} mm of buffer are left.`,
        length: {
          band: around(f.buffer, '1'),
          source: commonPractice(`${f.buffer} mm of buffer`),
          required: true,
        },
        integrity: f.integrity,
        wipe: 'Lint-free wipe with alcohol.',
      }),
      ...cleaving(c, {
        lowerMm: f.lower,
        upperMm: f.upper,
        targetMm: f.target,
        words: f.lengthWords,
        toleranceSaid: true,
      }),
      ...joining(c, w),
      ...afterLock(c),
    ],
  });
}

export const WEDGE: readonly MethodSheet[] = WEDGES.map(wedge);
export const LC_WEDGE_LOCATOR: MethodSheet = WEDGE[0]!;
